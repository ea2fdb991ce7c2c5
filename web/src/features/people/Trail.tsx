import { useInfiniteQuery } from "@tanstack/react-query";
import { useDeferredValue } from "react";
import { client, take } from "../../api";
import { format, keys, Notice, useAddressed } from "../../shared";
import { Anchor, Button, DataTable, Input, RowOf, Select, Space } from "../../shared/ui";
import { words } from "../../shared/words/people";

const w = words.people;

/** The audit trail, the latest first. */
export function Trail() {
  const [asked, show] = useAddressed("people/trail", { kind: "", text: "" });
  const { kind, text } = useDeferredValue(asked);
  const trail = useInfiniteQuery({
    queryKey: keys.audit(kind, text),
    initialPageParam: 0,
    queryFn: ({ pageParam }) =>
      take(client.GET("/api/audit", { params: { query: { kind, text, before: pageParam || undefined } } })),
    getNextPageParam: (last) => (last.more ? last.lines.at(-1)?.number : undefined),
  });
  const [first] = trail.data?.pages ?? [];
  const lines = trail.data?.pages.flatMap((p) => p.lines) ?? [];
  return (
    <>
      <RowOf mb="8">
        <Select aria-label={w.kind} value={asked.kind} onChange={(e) => show({ kind: e.target.value })}>
          <option value="">{w.anyKind}</option>
          {(first?.kinds ?? []).map((k) => (
            <option key={k} value={k}>
              {w.kinds[k] ?? k}
            </option>
          ))}
        </Select>
        <Input
          aria-label={w.find}
          placeholder={w.find}
          value={asked.text}
          maxLength={100}
          onChange={(e) => show({ text: e.target.value })}
        />
        <Space />
        <Anchor look="link" href="/api/audit.csv" download>
          CSV
        </Anchor>
      </RowOf>
      {trail.isError && <Notice bad>{trail.error.message}</Notice>}
      {first?.faults.map((f) => (
        <Notice key={f} bad>
          {f}
        </Notice>
      ))}
      {first && lines.length === 0 && <Notice>{w.none}</Notice>}
      {lines.length > 0 && (
        <DataTable
          aria-label={w.tabs.trail}
          rows={lines}
          keyOf={(x) => x.number}
          columns={[
            {
              title: w.when,
              kind: "date",
              cell: (x) => (
                <>
                  {format.date(x.at)}, {format.clock(x.at)}
                </>
              ),
            },
            { title: w.who, cell: (x) => x.who || w.somebody },
            { title: w.kind, cell: (x) => w.kinds[x.kind] ?? x.kind },
            { title: w.project, cell: (x) => x.project || "–" },
            { title: w.what, cell: (x) => x.what },
          ]}
        />
      )}
      {trail.hasNextPage && (
        <RowOf>
          <Button onClick={() => trail.fetchNextPage()}>{w.more}</Button>
        </RowOf>
      )}
    </>
  );
}
