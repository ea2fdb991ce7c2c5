import { Box } from "@chakra-ui/react";
import type { Schemas } from "../../api";
import { format, usePlace } from "../../shared";
import { Anchor, ScrollBox, Soft, Table } from "../../shared/ui";
import { words } from "../../shared/words/checks";

const w = words.checks;

/** How much of the plan each criterion of its quality caught, as a table with small bars. */
export function Quality({ rows }: { rows: Schemas["QualityOut"][] }) {
  const { project, page } = usePlace();
  const csv = `/api/projects/${encodeURIComponent(project)}/pages/${encodeURIComponent(page.code)}/checks/quality.csv`;
  return (
    <ScrollBox>
      <Table kind="read" width="auto">
        <caption>{w.quality}</caption>
        <thead>
          <tr>
            <th>{w.criterion}</th>
            <th data-num="">{w.caught}</th>
            <th data-num="">{w.of}</th>
            <th data-num="">{w.share}</th>
            <td />
          </tr>
        </thead>
        <tbody>
          {rows.map((q) => (
            <tr key={q.check}>
              <td>{format.sentence(q.says)}</td>
              <td data-num="">{q.caught}</td>
              <td data-num="">{q.of}</td>
              <td data-num="">{q.share == null ? "–" : `${format.percent(q.share)} %`}</td>
              <td>
                <Box width="140px" height="8px" borderBottomWidth="1px" borderColor="rule" aria-hidden="true">
                  <Box height="7px" bg={q.caught ? "watch" : "transparent"} width={`${Math.min(q.share ?? 0, 100)}%`} />
                </Box>
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
      <Soft as="p" mt="8">
        {w.openOnly}
      </Soft>
      <Box mt="10">
        <Anchor href={csv} download>
          {w.asCsv}
        </Anchor>
      </Box>
    </ScrollBox>
  );
}
