import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useDeferredValue } from "react";
import { client, take } from "../../api";
import { Bones, format, keys, Notice, useAddressed, usePlace } from "../../shared";
import { Anchor, Button, DataTable, Input, PartTitle, ScrollBox, Select, Soft } from "../../shared/ui";
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
              <DataTable
                width="auto"
                rows={entries.data.entries}
                keyOf={(_, i) => i}
                columns={[
                  {
                    title: w.page,
                    cell: (e) => (
                      <>
                        {e.page}, {format.weekDay(e.status)}
                      </>
                    ),
                  },
                  { title: w.kind, cell: (e) => w.kinds[e.kind] ?? e.kind },
                  { title: w.what, cell: (e) => e.text },
                  {
                    title: w.why,
                    cell: (e) => [e.corrects && w.corrects(e.corrects), e.note].filter(Boolean).join(": "),
                  },
                  { title: w.by, cell: (e) => e.by },
                  { title: w.at, cell: (e) => <Soft>{when(e.at)}</Soft> },
                ]}
              />
            )}
          </>
        )}
        <PartTitle>{w.trail}</PartTitle>
        {trail.isError && <Notice bad>{trail.error.message}</Notice>}
        {first && steps.length === 0 && <Soft as="p">{Object.values(asked).some(Boolean) ? w.none : w.noneYet}</Soft>}
        {steps.length > 0 && (
          <DataTable
            width="auto"
            rows={steps}
            keyOf={(s) => s.id}
            columns={[
              { title: w.at, cell: (s) => <Soft>{when(s.at)}</Soft> },
              { title: w.by, cell: (s) => s.by },
              { title: w.kind, cell: (s) => w.stepKinds[s.kind] ?? s.kind },
              {
                title: w.did,
                cell: (s) => (
                  <>
                    {format.sentence(s.label)}
                    {s.undone && <Soft> ({w.undone})</Soft>}
                  </>
                ),
              },
              { title: w.of, cell: (s) => s.subject },
            ]}
          />
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
