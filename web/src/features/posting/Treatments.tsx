import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { Fragment, type ReactNode } from "react";
import { client, take } from "../../api";
import { format, keys, Mark, Notice, oneOf, usePlace } from "../../shared";
import { Button, type DataColumn, DataTable, RowOf, Soft, Space } from "../../shared/ui";
import { words } from "../../shared/words/planned";
import type { usePosting } from "./usePosting";

const TREATMENTS: ["retained", "override", "recorded"] = ["retained", "override", "recorded"];
const w = words.treatments;
const NONE = "–";

/** What is said of each treatment, side by side. */
interface Line {
  head: ReactNode;
  cells: ReactNode[];
}

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
  const lines: Line[] = [
    { head: "", cells: treatments.map((t) => <Soft key={t.treatment}>{w.says[t.treatment]}</Soft>) },
    { head: w.finish, cells: treatments.map((t) => format.fullDay(t.finish)) },
    { head: w.drift, cells: treatments.map((t) => (t.drift == null ? NONE : format.late(t.drift))) },
    { head: w.float, cells: treatments.map((t) => (t.path_float == null ? NONE : `${format.tenth(t.path_float)} d`)) },
    {
      head: "",
      cells: treatments.map((t) =>
        t.in_force ? (
          <strong key={t.treatment}>{w.inForce}</strong>
        ) : (
          mayPost && (
            <Button
              key={t.treatment}
              aria-label={w.chooseOf(w.names[t.treatment] ?? "")}
              onClick={() => void posting.treat(oneOf(TREATMENTS, t.treatment))}
            >
              {w.choose}
            </Button>
          )
        ),
      ),
    },
  ];
  const lineOf = (r: (typeof rows)[number]): Line => ({
    head: (
      <>
        <Mark mark={r.mark} size={12} />{" "}
        <Button look="link" onClick={() => tell({ about: "activity", code: r.code })}>
          {r.code} {r.name}
        </Button>
        {r.out_of_sequence && <Soft> · {w.ahead}</Soft>}
      </>
    ),
    cells: r.dates.map((d) => (
      <Fragment key={`${d.begin}${d.finish}`}>
        {w.dates(format.day(d.begin), format.day(d.finish))}
        {d.total_float != null && <Soft>, {w.floatOf(format.tenth(d.total_float))}</Soft>}
      </Fragment>
    )),
  });
  return (
    <Box
      as="section"
      data-opened=""
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
      <DataTable
        rows={[...lines, ...rows.map(lineOf)]}
        keyOf={(_, at) => at}
        columns={[
          { head: true, cell: (line) => line.head },
          ...treatments.map(
            (t, i): DataColumn<Line> => ({ title: w.names[t.treatment], cell: (line) => line.cells[i] }),
          ),
        ]}
      />
      {rows.length === 0 && <Soft>{w.none}</Soft>}
    </Box>
  );
}
