import { useQuery, useQueryClient } from "@tanstack/react-query";
import { client, type Schemas, take } from "../../api";
import { Bones, keys, Notice } from "../../shared";
import { Members } from "./Members";

/** Who sees this project and what each may do here. */
export function ProjectAccess({ project }: { project: string }) {
  const queries = useQueryClient();
  const path = { params: { path: { project } } };
  const members = useQuery({
    queryKey: keys.project(project).members,
    queryFn: () => take(client.GET("/api/projects/{project}/members", path)),
  });
  if (members.isPending) return <Bones />;
  if (!members.data) return <Notice bad>{members.error?.message}</Notice>;
  const keep = async (body: Schemas["MembersForm"]) => {
    await take(client.PUT("/api/projects/{project}/members", { ...path, body }));
    queries.invalidateQueries({ queryKey: keys.project(project).members });
    queries.invalidateQueries({ queryKey: keys.frame(project) });
  };
  return <Members members={members.data} keep={keep} />;
}
