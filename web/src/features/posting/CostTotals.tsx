import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { client, Problem, take } from "../../api";
import { Entry, format, keys, useAddressed, usePlace } from "../../shared";
import { DataTable } from "../../shared/ui";
import { words } from "../../shared/words/costs";

const w = words.costs;
const SCOPE = { of: "" };

/** Actual cost by source, this page and to date: of the project, or of the activity or WBS element that is typed. */
export function CostTotals({ currency }: { currency: string }) {
  const { project, page } = usePlace();
  const [{ of }, set] = useAddressed(`${project}/costs`, SCOPE);
  const params = { path: { project, page: page.code }, query: { of } };
  const totals = useQuery({
    queryKey: keys.page(project, page.code).costTotals(of),
    queryFn: () => take(client.GET("/api/projects/{project}/pages/{page}/posting/costs/totals", { params })),
    placeholderData: keepPreviousData,
    retry: false,
  });
  const { on = "", name = "", totals: lines = [] } = totals.data ?? {};
  return (
    <div>
      <Entry
        label={w.totalsOf}
        value={of}
        placeholder={w.totalsAll}
        write={(text) => set({ of: text.trim() })}
        trouble={totals.error instanceof Problem ? totals.error.message : undefined}
      />
      <DataTable
        width="auto"
        caption={[w.totals, on && `${on} ${name}`, currency].filter(Boolean).join(", ")}
        rows={lines}
        keyOf={(t) => t.source}
        columns={[
          { title: w.columns.kind, cell: (t) => w.sources[t.source] ?? t.source },
          { title: w.here, kind: "num", cell: (t) => format.money(t.page) },
          { title: w.toDate, kind: "num", cell: (t) => format.money(t.to_date) },
        ]}
      />
    </div>
  );
}
