import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { client, type Schemas, take } from "../../api";
import { type Bucket, BucketPick, format, keys, LoadChart, Notice } from "../../shared";
import { Act, PartTitle, Soft } from "../../shared/ui";
import { words } from "../../shared/words/resources";

const w = words.resources;

/** The loads of the project's resources by bucket. */
export function useLoads(project: string) {
  const [bucket, setBucket] = useState<Bucket>("week");
  const loads = useQuery({
    queryKey: keys.project(project).loads(bucket),
    queryFn: () =>
      take(client.GET("/api/projects/{project}/loads", { params: { path: { project }, query: { bucket } } })),
  });
  return { bucket, setBucket, loads };
}

/** The load of a resource in the project; of one that the organisation keeps, over all projects too. */
export function Load({ resource, of }: { resource: Schemas["ResourceOut"]; of: ReturnType<typeof useLoads> }) {
  const { bucket, setBucket, loads } = of;
  const load = loads.data?.loads.find((l) => l.id === resource.id);
  return (
    <>
      <PartTitle>
        {w.load}
        <BucketPick bucket={bucket} choose={setBucket} />
      </PartTitle>
      {loads.isError && <Notice bad>{loads.error.message}</Notice>}
      {load && loads.data && (
        <LoadChart
          {...load}
          ends={loads.data.ends}
          causes={(i) =>
            (load.causes?.[String(i)] ?? []).map((c) => (
              <div key={c.row}>
                {c.code} {c.name}, {c.hours} h
              </div>
            ))
          }
        />
      )}
      {resource.kind === "material" && <Soft as="p">{w.noLoad}</Soft>}
      {resource.shared && resource.kind !== "material" && <Everywhere code={resource.shared} bucket={bucket} />}
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
          <LoadChart
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
