import { useQuery } from "@tanstack/react-query";
import { client, take } from "../../api";
import { keys } from "../../shared";

/** The project's own page: what it is, and its registers. */
export const useAbout = (project: string) =>
  useQuery({
    queryKey: keys.project(project).about,
    queryFn: () => take(client.GET("/api/projects/{project}/about", { params: { path: { project } } })),
  });
