import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { client, Problem, take } from "../api";

/** What several rooms read of a page. Keys start with the project and page, so that a change can refresh them together. */
const at = (project: string, page: string) => ({ params: { path: { project, page } } });

export const useSession = () => useQuery({ queryKey: ["session"], queryFn: () => take(client.GET("/api/session")) });

export const useDesk = () => useQuery({ queryKey: ["desk"], queryFn: () => take(client.GET("/api/projects")) });

/** How often it is asked whether somebody else wrote, in milliseconds. */
const NEWS = 8_000;

export const useFrame = (project: string) =>
  useQuery({
    queryKey: ["frame", project],
    queryFn: () => take(client.GET("/api/projects/{project}", { params: { path: { project } } })),
    // A project that is gone, or that one may not see any more, is not asked for again and again.
    refetchInterval: ({ state: { error } }) =>
      error instanceof Problem && [403, 404].includes(error.status) ? false : NEWS,
  });

export const useBalance = (project: string, page: string) =>
  useQuery({
    queryKey: [project, page, "balance"],
    queryFn: () => take(client.GET("/api/projects/{project}/pages/{page}/balance", at(project, page))),
  });

const signsOf = (project: string, page: string) => ({
  queryKey: [project, page, "signs"],
  queryFn: () => take(client.GET("/api/projects/{project}/pages/{page}/checks/signs", at(project, page))),
});

/** How many findings of the checks are open on a page, and how many of them cannot be true. */
export const useFindings = (project: string, page: string) => useQuery(signsOf(project, page));

/** The open findings of a row, for its sign; of no row those of the page. */
export const useSigns = (project: string, page: string, code: string) =>
  useQuery({
    ...signsOf(project, page),
    select: ({ rows, open }) => (code ? (rows[code] ?? 0) : open),
    staleTime: Number.POSITIVE_INFINITY,
  });

export const useCurve = (
  project: string,
  page: string,
  wbs: string,
  bucket: "day" | "week" | "month" | "period",
  baselines?: string,
) =>
  useQuery({
    queryKey: [project, page, "curve", wbs, bucket, baselines],
    queryFn: () =>
      take(
        client.GET("/api/projects/{project}/pages/{page}/curve", {
          params: { path: { project, page }, query: { wbs, bucket, baselines } },
        }),
      ),
    placeholderData: keepPreviousData,
  });

/** The present plan and its options side by side. */
export const useOptions = (project: string) =>
  useQuery({
    queryKey: [project, "options", "board"],
    queryFn: () => take(client.GET("/api/projects/{project}/options", { params: { path: { project } } })),
  });
