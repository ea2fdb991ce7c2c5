import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { client, take } from "../../api";
import { format, keys, Mark, Notice, oneOf, usePlace } from "../../shared";
import { Button, RowOf, Soft, Space, Table } from "../../shared/ui";
import { words } from "../../shared/words/planned";
import type { usePosting } from "./usePosting";

const TREATMENTS: ["retained", "override", "recorded"] = ["retained", "override", "recorded"];
const w = words.treatments;
const NONE = "–";

/** The three treatments of out-of-sequence work side by side; choosing one is a step of the journal. */
export function Treatments({ posting, shut }: { posting: ReturnType<typeof usePosting>; shut: () => void }) {
  const { project, page, mayPost, tell } = usePlace();
  const path = { project, page: page.code };
  const found = useQuery({
    queryKey: keys.page(project, page.code).treatments,
    queryFn: () => take(client.GET("/api/projects/{project}/pages/{page}/treatments", { params: { path } })),
  });
  if (found.isPending) return <Notice>{words.planned.doing}</Notice>;
  if (!found.data) return <Notice bad>{found.error?.message}</Notice>;
  const { treatments, rows } = found.data;
  return (
    <Box
      as="section"
      aria-label={w.title}
      flex="none"
      maxH="48%"
      overflow="auto"
      pt="0"
      px="14"
      pb="10"
      onKeyDown={(e) => e.key === "Escape" && shut()}
    >
      <RowOf>
        <strong>{w.title}</strong>
        <Space />
        <Button autoFocus onClick={shut}>
          {w.close}
        </Button>
      </RowOf>
      <Table kind="read" width="100%">
        <thead>
          <tr>
            <td />
            {treatments.map((t) => (
              <th key={t.treatment} scope="col">
                {w.names[t.treatment]}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          <tr>
            <td />
            {treatments.map((t) => (
              <td key={t.treatment}>
                <Soft>{w.says[t.treatment]}</Soft>
              </td>
            ))}
          </tr>
          <tr>
            <th scope="row">{w.finish}</th>
            {treatments.map((t) => (
              <td key={t.treatment}>{format.fullDay(t.finish)}</td>
            ))}
          </tr>
          <tr>
            <th scope="row">{w.drift}</th>
            {treatments.map((t) => (
              <td key={t.treatment}>{t.drift == null ? NONE : format.late(t.drift)}</td>
            ))}
          </tr>
          <tr>
            <th scope="row">{w.float}</th>
            {treatments.map((t) => (
              <td key={t.treatment}>{t.path_float == null ? NONE : `${format.tenth(t.path_float)} d`}</td>
            ))}
          </tr>
          <tr>
            <td />
            {treatments.map((t) => (
              <td key={t.treatment}>
                {t.in_force ? (
                  <strong>{w.inForce}</strong>
                ) : (
                  mayPost && (
                    <Button
                      aria-label={w.chooseOf(w.names[t.treatment] ?? "")}
                      onClick={() => void posting.treat(oneOf(TREATMENTS, t.treatment))}
                    >
                      {w.choose}
                    </Button>
                  )
                )}
              </td>
            ))}
          </tr>
          {rows.map((r) => (
            <tr key={r.code}>
              <th scope="row">
                <Mark mark={r.mark} size={12} />{" "}
                <Button look="link" onClick={() => tell({ about: "activity", code: r.code })}>
                  {r.code} {r.name}
                </Button>
                {r.out_of_sequence && <Soft> · {w.ahead}</Soft>}
              </th>
              {r.dates.map((d, i) => (
                <td key={treatments[i]?.treatment}>
                  {w.dates(format.day(d.begin), format.day(d.finish))}
                  {d.total_float != null && <Soft>, {w.floatOf(format.tenth(d.total_float))}</Soft>}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </Table>
      {rows.length === 0 && <Soft>{w.none}</Soft>}
    </Box>
  );
}
