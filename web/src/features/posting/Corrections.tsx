import { Box } from "@chakra-ui/react";
import { Link } from "react-router";
import type { Schemas } from "../../api";
import { format, usePlace } from "../../shared";
import { Button, Table } from "../../shared/ui";
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
            <Table kind="read" width="auto">
              <caption>{title}</caption>
              <thead>
                <tr>
                  <th>{head}</th>
                  <th>{w.what}</th>
                  {lens === "hours" && <th>{w.who}</th>}
                  {lens === "progress" ? (
                    <>
                      <th>{w.from}</th>
                      <th>{w.to}</th>
                    </>
                  ) : (
                    <th data-num="">{w.change}</th>
                  )}
                  <th>{w.why}</th>
                  {of.mayDelete && <td />}
                </tr>
              </thead>
              <tbody>
                {rows.map((c, i) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: those of dry pages have no name of their own
                  <tr key={`${c.id}${i}`}>
                    <td>
                      <Link to={`/${encodeURIComponent(project)}/${encodeURIComponent(other(c))}/posting${path}`}>
                        {other(c)}
                      </Link>
                    </td>
                    <td data-tip={c.name}>
                      {c.on} {c.name}
                    </td>
                    {lens === "hours" && <td>{c.person}</td>}
                    {lens === "progress" ? (
                      <>
                        <td>{c.was || w.nothing}</td>
                        <td>{c.now}</td>
                      </>
                    ) : (
                      <td data-num="">{changeOf(c, frame.currency)}</td>
                    )}
                    <td>{c.reason}</td>
                    {of.mayDelete && (
                      <td>
                        {c.id && (
                          <Button look="quiet" aria-label={w.remove(c.corrects, c.on)} onClick={() => of.remove(c.id)}>
                            ×
                          </Button>
                        )}
                      </td>
                    )}
                  </tr>
                ))}
              </tbody>
            </Table>
          </Box>
        ),
      )}
    </>
  );
}
