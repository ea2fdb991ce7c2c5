import { useQuery } from "@tanstack/react-query";
import { client, take } from "../../api";

/** The project's own page: what it is, and its registers. */
export const useAbout = (project: string) =>
  useQuery({
    queryKey: [project, "about"],
    queryFn: () => take(client.GET("/api/projects/{project}/about", { params: { path: { project } } })),
  });
