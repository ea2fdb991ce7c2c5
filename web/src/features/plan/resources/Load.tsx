import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { client, type Schemas, take } from "../../../api";
import { type Bucket, BucketPick, format, keys, LoadChart, LoadTable, Notice, usePlace } from "../../../shared";
import { Act, Button, MarginHead, Pair, PartTitle, RowOf, Soft } from "../../../shared/ui";
import { words } from "../../../shared/words/resources";
import type { PlanHandle } from "../usePlan";
import type { Resource } from "./columns";
import { sayOutcome, sayRemedy } from "./saying";

const w = words.resources;
const MOST = 60;

/** The loads of the project's resources by bucket. */
export function useLoads(project: string) {
  const [bucket, setBucket] = useState<Bucket>("week");
  const loads = useQuery({
    queryKey: keys.project(project).loads(bucket),
    queryFn: () =>
      take(client.GET("/api/projects/{project}/loads", { params: { path: { project }, query: { bucket } } })),
    placeholderData: (before) => before,
  });
  return { bucket, setBucket, loads };
}

interface Props {
  resource: Resource;
  of: ReturnType<typeof useLoads>;
  plan: PlanHandle;
  open: boolean;
}

/** The load of a resource in the project, and where it is too much how to put it right; of a shared one over all projects too. */
export function Load({ resource, of, plan, open }: Props) {
  const { bucket, setBucket, loads } = of;
  const load = loads.data?.loads.find((l) => l.id === resource.id);
  if (resource.kind === "material") return <Soft as="p">{w.noLoad}</Soft>;
  return (
    <>
      <RowOf>
        <BucketPick bucket={bucket} choose={setBucket} />
        {load && load.stretches.length === 0 && <Soft>{w.fits}</Soft>}
      </RowOf>
      {loads.isError && <Notice bad>{loads.error.message}</Notice>}
      {load && loads.data && (
        <Box display="flex" flexWrap="wrap" gap="18px" alignItems="flex-start">
          <Box flex="1 1 480px" minW="0">
            <LoadChart {...load} ends={loads.data.ends} />
          </Box>
          {load.stretches.length > 0 && (
            <Box flex="1 1 380px" minW="0">
              <Short key={resource.id} resource={resource} stretches={load.stretches} plan={plan} open={open} />
            </Box>
          )}
        </Box>
      )}
      {resource.shared && <Everywhere code={resource.shared} bucket={bucket} />}
    </>
  );
}

interface ShortProps {
  resource: Resource;
  stretches: Schemas["Stretch"][];
  plan: PlanHandle;
  open: boolean;
}

/** The times in which more is asked than there is; of the one that is chosen who asks, and the ways to put it right. */
function Short({ resource, stretches, plan, open }: ShortProps) {
  const [at, setAt] = useState(0);
  const chosen = stretches[Math.min(at, stretches.length - 1)];
  if (!chosen) return null;
  return (
    <section aria-label={w.shortOf(resource.name)}>
      <RowOf>
        {stretches.length > 1 && (
          <>
            <Button aria-label={w.before} disabled={at === 0} onClick={() => setAt(at - 1)}>
              ‹
            </Button>
            <Button aria-label={w.after} disabled={at >= stretches.length - 1} onClick={() => setAt(at + 1)}>
              ›
            </Button>
          </>
        )}
        <b>{w.stretch(format.spokenDay(chosen.start), format.spokenDay(chosen.end), format.hours(chosen.hours))}</b>
        {stretches.length > 1 && <Soft>{w.ofMany(at + 1, stretches.length)}</Soft>}
      </RowOf>
      <Soft as="div">{w.required(format.percent(chosen.required), format.percent(chosen.available))}</Soft>
      {chosen.causes.slice(0, MOST).map((c) => (
        <Pair key={c.row} dotted>
          <span>
            {c.code} {c.name}
          </span>
          <span>{format.hours(c.hours)}</span>
        </Pair>
      ))}
      {open && <PutRight resource={resource} start={chosen.start} end={chosen.end} plan={plan} />}
    </section>
  );
}

/** The ways to put it right, each computed, the least harm first; one press does it, as one step. */
function PutRight({
  resource,
  start,
  end,
  plan,
}: {
  resource: Resource;
  start: string;
  end: string;
  plan: PlanHandle;
}) {
  const { project } = usePlace();
  const found = useQuery({
    queryKey: keys.project(project).remedies(resource.id, start, end),
    queryFn: () =>
      take(
        client.GET("/api/projects/{project}/loads/{row}/remedies", {
          params: { path: { project, row: resource.id }, query: { start, end } },
        }),
      ),
  });
  return (
    <>
      <MarginHead>{w.putRight}</MarginHead>
      {found.isPending && <Soft role="status">{w.reckoning}</Soft>}
      {found.isError && <Notice bad>{found.error.message}</Notice>}
      {found.data?.found.length === 0 && <Soft as="p">{w.noWay}</Soft>}
      {found.data?.found.map((x) => (
        <Pair key={`${x.kind} ${x.mode} ${x.activity} ${x.other}`} dotted>
          <span>
            <Button look="link" onClick={() => plan.change(x.verbs as Parameters<typeof plan.change>[0])}>
              {sayRemedy(x)}
            </Button>{" "}
            {x.kind === "other" && <Soft>{[...x.skills, w.free(format.hours(x.free_hours))].join(", ")}</Soft>}
          </span>
          <span>{x.later_days > 0 ? <Act>{sayOutcome(x)}</Act> : sayOutcome(x)}</span>
        </Pair>
      ))}
    </>
  );
}

/** What all projects that one sees ask of a resource of the organisation. */
function Everywhere({ code, bucket }: { code: string; bucket: Bucket }) {
  const loads = useQuery({
    queryKey: keys.desk.people(bucket, code),
    queryFn: () => take(client.GET("/api/desk/people", { params: { query: { bucket, resource: code } } })),
  });
  const load = loads.data?.resources[0];
  return (
    <>
      <PartTitle>{w.everywhere}</PartTitle>
      {loads.isError && <Notice bad>{loads.error.message}</Notice>}
      {load && (
        <>
          <Soft as="p">
            {w.everywhereHelp(Object.keys(load.projects))}{" "}
            <Link to={`/?show=people&who=${encodeURIComponent(code)}`}>{w.onDesk}</Link>
          </Soft>
          {load.spans[0] && (
            <p>
              <Act>{w.overAcross(format.hours(load.over_hours), format.fullDay(load.spans[0].start))}</Act>
            </p>
          )}
          <LoadChart {...load} />
          <LoadTable
            {...load}
            fits={w.fitsBy(bucket)}
            causes={(i) =>
              (load.causes[String(i)] ?? []).map((c) => (
                <div key={`${c.project} ${c.code}`}>
                  {c.project}/{c.code} {c.name}, {c.hours} h
                </div>
              ))
            }
          />
        </>
      )}
    </>
  );
}
