import { Box } from "@chakra-ui/react";
import { Link } from "react-router";
import type { Schemas } from "../../api";
import { format, usePlace } from "../../shared";
import { Button, DataTable } from "../../shared/ui";
import { words } from "../../shared/words/corrections";
import type { useCorrections } from "./useCorrections";

const w = words.corrections;
type Row = Schemas["CorrectionOut"];

const LENSES = {
  progress: { kind: "statement", path: "" },
  hours: { kind: "hours", path: "/hours" },
  costs: { kind: "cost", path: "/costs" },
};

const signed = (n: number) => `${n > 0 ? "+" : ""}${format.tenth(n)}`;
const changeOf = (c: Row, currency: string) =>
  c.amount
    ? `${format.signed(c.amount)} ${currency}`
    : [c.worked && w.hours(signed(c.worked)), c.overtime && w.overtimeOf(signed(c.overtime))]
        .filter(Boolean)
        .join(", ");

/** The corrections that the page makes of earlier ones, or those that later ones make of it; each names the other end. */
export function Corrections({ of, lens }: { of: ReturnType<typeof useCorrections>; lens: keyof typeof LENSES }) {
  const { project, frame } = usePlace();
  const data = of.list.data;
  const { kind, path } = LENSES[lens];
  const own = (rows: Row[]) => rows.filter((c) => c.kind === kind);
  const groups = [
    [w.made, w.of, own(data?.made ?? []), (c: Row) => c.corrects],
    [w.received, w.on, own(data?.received ?? []), (c: Row) => c.page],
  ] as const;
  return (
    <>
      {groups.map(([title, head, rows, other]) =>
        rows.length === 0 ? null : (
          <Box key={title} pt="6" px="14" pb="10" overflow="auto" maxH="30%" flex="none">
            <DataTable
              width="auto"
              caption={title}
              rows={rows}
              keyOf={(c, i) => `${c.id}${i}`}
              columns={[
                {
                  title: head,
                  cell: (c) => (
                    <Link to={`/${encodeURIComponent(project)}/${encodeURIComponent(other(c))}/posting${path}`}>
                      {other(c)}
                    </Link>
                  ),
                },
                { title: w.what, tip: (c) => c.name, cell: (c) => `${c.on} ${c.name}` },
                lens === "hours" && { title: w.who, cell: (c) => c.person },
                lens === "progress" && { title: w.from, cell: (c) => c.was || w.nothing },
                lens === "progress" && { title: w.to, cell: (c) => c.now },
                lens !== "progress" && { title: w.change, kind: "num", cell: (c) => changeOf(c, frame.currency) },
                { title: w.why, cell: (c) => c.reason },
                of.mayDelete && {
                  cell: (c) =>
                    c.id && (
                      <Button look="quiet" aria-label={w.remove(c.corrects, c.on)} onClick={() => of.remove(c.id)}>
                        ×
                      </Button>
                    ),
                },
              ]}
            />
          </Box>
        ),
      )}
    </>
  );
}
