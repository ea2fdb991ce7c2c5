import { Box } from "@chakra-ui/react";
import type { Schemas } from "../../api";
import { format, usePlace } from "../../shared";
import { Anchor, DataTable, ScrollBox, Soft } from "../../shared/ui";
import { words } from "../../shared/words/checks";

const w = words.checks;

/** How much of the plan each criterion of its quality caught, as a table with small bars. */
export function Quality({ rows }: { rows: Schemas["QualityOut"][] }) {
  const { project, page } = usePlace();
  const csv = `/api/projects/${encodeURIComponent(project)}/pages/${encodeURIComponent(page.code)}/checks/quality.csv`;
  return (
    <ScrollBox>
      <DataTable
        width="auto"
        caption={w.quality}
        rows={rows}
        keyOf={(q) => q.check}
        columns={[
          { title: w.criterion, cell: (q) => format.sentence(q.says) },
          { title: w.caught, kind: "num", cell: (q) => q.caught },
          { title: w.of, kind: "num", cell: (q) => q.of },
          { title: w.share, kind: "num", cell: (q) => (q.share == null ? "–" : `${format.percent(q.share)} %`) },
          {
            cell: (q) => (
              <Box width="140px" height="8px" borderBottomWidth="1px" borderColor="rule" aria-hidden="true">
                <Box height="7px" bg={q.caught ? "watch" : "transparent"} width={`${Math.min(q.share ?? 0, 100)}%`} />
              </Box>
            ),
          },
        ]}
      />
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
