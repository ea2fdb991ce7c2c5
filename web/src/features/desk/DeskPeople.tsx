import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { client, type Schemas, take } from "../../api";
import { Bones, type Bucket, BucketPick, format, keys, LoadChart, LoadTable, Notice, useAddressed } from "../../shared";
import { Act, Button, type DataColumn, DataTable, PartTitle, Soft } from "../../shared/ui";
import { words } from "../../shared/words/desk";
import type { Project } from "./useDeskLook";

const w = words.desk;
type Load = Schemas["PersonLoad"];
type Asked = Schemas["AskedOut"];
/** How many times of over-allocation the screen lists at first. */
const FEW = 12;

/** The resources of the organisation over all projects that are shown: what is asked of each, and where that is too much. */
export function DeskPeople({ projects }: { projects: Project[] }) {
  const [{ who }, choose] = useAddressed("desk/people", { who: "" });
  const [bucket, setBucket] = useState<Bucket>("week");
  const codes = projects.map((p) => p.code);
  const loads = useQuery({
    queryKey: keys.desk.people(bucket, codes),
    queryFn: () => take(client.GET("/api/desk/people", { params: { query: { bucket, codes } } })),
    enabled: codes.length > 0,
  });
  if (codes.length === 0) return <Notice>{w.nothingShown}</Notice>;
  if (loads.isPending) return <Bones />;
  if (!loads.data) return <Notice bad>{loads.error?.message}</Notice>;
  const found = loads.data.resources;
  if (found.length === 0) return <Notice>{w.noShared}</Notice>;
  const chosen = found.find((r) => r.code === who) ?? [...found].sort((a, b) => b.over_hours - a.over_hours)[0];
  return (
    <>
      <Soft as="p">{w.sharedHelp}</Soft>
      <DataTable
        aria-label={w.tabs.people}
        rows={found}
        keyOf={(r) => r.code}
        columns={[
          {
            title: w.resource,
            cell: (r) => (
              <>
                <Button
                  look="link"
                  aria-current={r.code === chosen?.code || undefined}
                  onClick={() => choose({ who: r.code })}
                >
                  {r.name}
                </Button>{" "}
                <Soft>{r.code}</Soft>
              </>
            ),
          },
          { title: w.units, kind: "num", cell: (r) => r.units },
          { title: w.hoursAsked, kind: "num", cell: (r) => format.hours(r.hours) },
          {
            title: w.hoursOver,
            kind: "num",
            cell: (r) => (r.over_hours > 0 ? <Act>{format.hours(r.over_hours)}</Act> : "–"),
          },
          { title: w.firstOver, kind: "date", cell: (r) => (r.spans[0] ? format.date(r.spans[0].start) : "–") },
          { title: w.askedBy, cell: (r) => Object.keys(r.projects).join(", ") || w.none },
        ]}
      />
      {chosen && (
        <>
          <PartTitle>
            {w.loadOf(chosen.name)}
            <BucketPick bucket={bucket} choose={setBucket} />
          </PartTitle>
          {chosen.first && (
            <Soft as="p">{w.asOf(format.fullDay(chosen.first), format.fullDay(chosen.last), chosen.units)}</Soft>
          )}
          <LoadChart {...chosen} />
          <LoadTable
            {...chosen}
            fits={w.fits(bucket)}
            causes={(i) =>
              (chosen.causes[String(i)] ?? []).map((a) => <Cause key={`${a.project} ${a.code}`} asked={a} />)
            }
          />
          <ByProject load={chosen} />
          <Over key={chosen.code} load={chosen} />
        </>
      )}
    </>
  );
}

/** An activity that asks for a resource; it leads there. */
function Cause({ asked: a }: { asked: Asked }) {
  const to = `/${encodeURIComponent(a.project)}/${encodeURIComponent(a.page)}/plan?find=${encodeURIComponent(a.code)}`;
  return (
    <div>
      <Link to={to}>
        {a.project}/{a.code}
      </Link>{" "}
      {a.name}
      {a.hours > 0 && `, ${format.hours(a.hours)}`}
    </div>
  );
}

/** What each project asks of a resource by bucket, against what there is. */
function ByProject({ load }: { load: Load }) {
  const projects = Object.entries(load.projects);
  const some = load.ends.map((_, i) => i).filter((i) => (load.asked[i] ?? 0) > 0);
  if (projects.length < 2) return null;
  return (
    <>
      <PartTitle>{w.byProject}</PartTitle>
      <DataTable
        aria-label={w.byProject}
        rows={some}
        keyOf={(i) => i}
        columns={[
          { title: w.upTo, kind: "date", cell: (i) => format.date(load.ends[i]) },
          ...projects.map(
            ([code, hours]): DataColumn<number> => ({
              title: code,
              kind: "num",
              cell: (i) => (hours[i] ? format.hours(hours[i]) : "–"),
            }),
          ),
          {
            title: w.required,
            kind: "num",
            cell: (i) =>
              load.over.includes(i) ? <Act>{format.hours(load.asked[i])}</Act> : format.hours(load.asked[i]),
          },
          { title: w.available, kind: "num", cell: (i) => format.hours(load.there[i]) },
        ]}
      />
    </>
  );
}

/** The times in which activities of all projects together book more than there is, to the minute. */
function Over({ load }: { load: Load }) {
  const [all, showAll] = useState(false);
  const { spans } = load;
  const shown = all ? spans : spans.slice(0, FEW);
  return (
    <>
      <PartTitle>{w.overAllocated}</PartTitle>
      {spans.length === 0 && <Soft as="p">{w.neverOver}</Soft>}
      {spans.length > 0 && (
        <DataTable
          aria-label={w.overAllocated}
          rows={shown}
          keyOf={(x) => x.start}
          columns={[
            { title: w.from, kind: "date", cell: (x) => format.moment(x.start) },
            { title: w.until, kind: "date", cell: (x) => format.moment(x.end) },
            { title: w.required, kind: "num", cell: (x) => x.required },
            { title: w.available, kind: "num", cell: (x) => x.available || w.offThen },
            { title: w.hoursOver, kind: "num", cell: (x) => format.hours(x.hours) },
            { title: w.askedBy, cell: (x) => x.who.map((a) => <Cause key={`${a.project} ${a.code}`} asked={a} />) },
          ]}
        />
      )}
      {!all && spans.length > FEW && <Button onClick={() => showAll(true)}>{w.showAll(spans.length)}</Button>}
      {load.more_spans > 0 && <Soft as="p">{w.moreSpans(load.more_spans)}</Soft>}
    </>
  );
}
