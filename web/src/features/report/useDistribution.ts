import { useQuery } from "@tanstack/react-query";
import { client, take } from "../../api";
import { keys, usePlace } from "../../shared";

/** The distribution list, every edition of the project, and where the outbox can be looked at. */
export function useDistribution() {
  const { project } = usePlace();
  return useQuery({
    queryKey: keys.project(project).distribution,
    queryFn: () => take(client.GET("/api/projects/{project}/distribution", { params: { path: { project } } })),
  });
}
