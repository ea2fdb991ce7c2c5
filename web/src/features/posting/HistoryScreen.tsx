import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useDeferredValue } from "react";
import { client, take } from "../../api";
import { Bones, format, keys, Notice, useAddressed, usePlace } from "../../shared";
import { Anchor, Button, Input, PartTitle, ScrollBox, Select, Soft, Table } from "../../shared/ui";
import { words } from "../../shared/words/history";
import { PageHead } from "./PageHead";
import { usePosting } from "./usePosting";

const w = words.history;
const VIEW = { of: "", kind: "", by: "", words: "" };
const when = (iso: string) => (iso ? `${format.fullDay(iso)}, ${iso.slice(11, 16)}` : w.came);

/** What every page says of an activity, with who and when; and the journal as a trail that can be filtered and exported. */
export function HistoryScreen() {
  const { project } = usePlace();
  const posting = usePosting();
  const [asked, show] = useAddressed(`${project}/history`, VIEW);
  const filter = useDeferredValue(asked);
  const code = filter.of.trim().split(" ")[0] ?? "";
  const rows = posting.sheet.data?.rows;
  const activity = rows?.find((r) => r.code.toLowerCase() === code.toLowerCase());
  const entries = useQuery({
    queryKey: keys.project(project).history(activity?.code),
    queryFn: () =>
      take(
        client.GET("/api/projects/{project}/history/{activity}", {
          params: { path: { project, activity: activity?.code ?? "" } },
        }),
      ),
    enabled: activity !== undefined,
  });
  const query = { kind: filter.kind, by: filter.by, words: filter.words.trim(), of: code };
  const trail = useInfiniteQuery({
    queryKey: keys.project(project).journal(query),
    initialPageParam: 0,
    queryFn: ({ pageParam }) =>
      take(
        client.GET("/api/projects/{project}/journal", {
          params: { path: { project }, query: { ...query, before: pageParam || undefined } },
        }),
      ),
    getNextPageParam: (last) => (last.more ? last.steps.at(-1)?.id : undefined),
  });
  if (posting.sheet.isPending) return <Bones />;
  if (!posting.sheet.data) return <Notice bad>{posting.sheet.error?.message}</Notice>;
  const [first] = trail.data?.pages ?? [];
  const steps = trail.data?.pages.flatMap((p) => p.steps) ?? [];
  const csv = `/api/projects/${encodeURIComponent(project)}/journal.csv?${new URLSearchParams(query)}`;
  return (
    <>
      <PageHead posting={posting} sheet={posting.sheet.data}>
        <Input
          aria-label={w.of}
          placeholder={w.ofHint}
          width="120px"
          list="history-activities"
          value={asked.of}
          onChange={(e) => show({ of: e.target.value })}
        />
        <datalist id="history-activities">
          {rows?.map((r) => (
            <option key={r.code} value={`${r.code} ${r.name}`} />
          ))}
        </datalist>
        <Select aria-label={w.kind} maxW="120px" value={asked.kind} onChange={(e) => show({ kind: e.target.value })}>
          <option value="">{w.all}</option>
          {first?.kinds?.map((k) => (
            <option key={k} value={k}>
              {w.stepKinds[k] ?? k}
            </option>
          ))}
        </Select>
        <Select aria-label={w.by} maxW="120px" value={asked.by} onChange={(e) => show({ by: e.target.value })}>
          <option value="">{w.anybody}</option>
          {first?.people?.map((p) => (
            <option key={p}>{p}</option>
          ))}
        </Select>
        <Input
          aria-label={w.words}
          placeholder={w.words}
          width="100px"
          value={asked.words}
          onChange={(e) => show({ words: e.target.value })}
        />
        <Anchor href={csv} download>
          {w.asCsv}
        </Anchor>
      </PageHead>
      <ScrollBox tabIndex={0} role="region" aria-label={w.trail}>
        {activity && entries.data && (
          <>
            <PartTitle>{w.entries(`${activity.code} ${activity.name}`)}</PartTitle>
            {entries.data.entries.length === 0 ? (
              <Soft as="p">{w.noEntries}</Soft>
            ) : (
              <Table kind="read" width="auto">
                <thead>
                  <tr>
                    <th>{w.page}</th>
                    <th>{w.kind}</th>
                    <th>{w.what}</th>
                    <th>{w.why}</th>
                    <th>{w.by}</th>
                    <th>{w.at}</th>
                  </tr>
                </thead>
                <tbody>
                  {entries.data.entries.map((e, i) => (
                    // biome-ignore lint/suspicious/noArrayIndexKey: entries have no name of their own
                    <tr key={i}>
                      <td>
                        {e.page}, {format.weekDay(e.status)}
                      </td>
                      <td>{w.kinds[e.kind] ?? e.kind}</td>
                      <td>{e.text}</td>
                      <td>{[e.corrects && w.corrects(e.corrects), e.note].filter(Boolean).join(": ")}</td>
                      <td>{e.by}</td>
                      <td>
                        <Soft>{when(e.at)}</Soft>
                      </td>
                    </tr>
                  ))}
                </tbody>
              </Table>
            )}
          </>
        )}
        <PartTitle>{w.trail}</PartTitle>
        {trail.isError && <Notice bad>{trail.error.message}</Notice>}
        {first && steps.length === 0 && <Soft as="p">{Object.values(asked).some(Boolean) ? w.none : w.noneYet}</Soft>}
        {steps.length > 0 && (
          <Table kind="read" width="auto">
            <thead>
              <tr>
                <th>{w.at}</th>
                <th>{w.by}</th>
                <th>{w.kind}</th>
                <th>{w.did}</th>
                <th>{w.of}</th>
              </tr>
            </thead>
            <tbody>
              {steps.map((s) => (
                <tr key={s.id}>
                  <td>
                    <Soft>{when(s.at)}</Soft>
                  </td>
                  <td>{s.by}</td>
                  <td>{w.stepKinds[s.kind] ?? s.kind}</td>
                  <td>
                    {format.sentence(s.label)}
                    {s.undone && <Soft> ({w.undone})</Soft>}
                  </td>
                  <td>{s.subject}</td>
                </tr>
              ))}
            </tbody>
          </Table>
        )}
        {trail.hasNextPage && (
          <Button mt="8" onClick={() => void trail.fetchNextPage()}>
            {w.more}
          </Button>
        )}
      </ScrollBox>
    </>
  );
}
