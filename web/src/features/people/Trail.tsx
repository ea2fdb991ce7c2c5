import { useInfiniteQuery } from "@tanstack/react-query";
import { useDeferredValue } from "react";
import { client, take } from "../../api";
import { format, keys, Notice, useAddressed } from "../../shared";
import { Anchor, Button, Input, RowOf, Select, Space, Table } from "../../shared/ui";
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
        <Table aria-label={w.tabs.trail}>
          <thead>
            <tr>
              <th>{w.when}</th>
              <th>{w.who}</th>
              <th>{w.kind}</th>
              <th>{w.project}</th>
              <th>{w.what}</th>
            </tr>
          </thead>
          <tbody>
            {lines.map((x) => (
              <tr key={x.number}>
                <td data-date="">
                  {format.date(x.at)}, {format.clock(x.at)}
                </td>
                <td>{x.who || w.somebody}</td>
                <td>{w.kinds[x.kind] ?? x.kind}</td>
                <td>{x.project || "–"}</td>
                <td>{x.what}</td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
      {trail.hasNextPage && (
        <RowOf>
          <Button onClick={() => trail.fetchNextPage()}>{w.more}</Button>
        </RowOf>
      )}
    </>
  );
}
