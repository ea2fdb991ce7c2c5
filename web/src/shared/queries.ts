import { keepPreviousData, queryOptions, useQuery } from "@tanstack/react-query";
import { client, Problem, take } from "../api";
import { keys } from "./keys";

/** What several rooms read of a page. Keys start with the project and page, so that a change can refresh them together. */
const at = (project: string, page: string) => ({ params: { path: { project, page } } });

export const useSession = () => useQuery({ queryKey: keys.session, queryFn: () => take(client.GET("/api/session")) });

/** How often the desk is read again, in milliseconds. */
const DESK_NEWS = 30_000;

/** All projects that one sees, as they were read last. */
export const projectsOf = queryOptions({
  queryKey: keys.desk.all,
  queryFn: () => take(client.GET("/api/projects")),
});

export const useDesk = () =>
  useQuery({
    ...projectsOf,
    // What is posted in another window shows here too.
    refetchInterval: DESK_NEWS,
    refetchOnMount: "always",
    refetchOnWindowFocus: "always",
  });

/** How often it is asked whether somebody else wrote, in milliseconds. */
const NEWS = 8_000;

export const useFrame = (project: string) =>
  useQuery({
    queryKey: keys.frame(project),
    queryFn: () => take(client.GET("/api/projects/{project}", { params: { path: { project } } })),
    // A project that is gone, or that one may not see any more, is not asked for again and again.
    refetchInterval: ({ state: { error } }) =>
      error instanceof Problem && [403, 404].includes(error.status) ? false : NEWS,
  });

export const useBalance = (project: string, page: string) =>
  useQuery({
    queryKey: keys.page(project, page).balance,
    queryFn: () => take(client.GET("/api/projects/{project}/pages/{page}/balance", at(project, page))),
  });

const signsOf = (project: string, page: string) => ({
  queryKey: keys.page(project, page).signs,
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
  of: { field?: string; value?: string } = {},
) =>
  useQuery({
    queryKey: keys.page(project, page).curve(wbs, bucket, baselines, of),
    queryFn: () =>
      take(
        client.GET("/api/projects/{project}/pages/{page}/curve", {
          params: { path: { project, page }, query: { wbs, bucket, baselines, ...of } },
        }),
      ),
    placeholderData: keepPreviousData,
  });

/** The present plan and its options side by side. */
export const useOptions = (project: string) =>
  useQuery({
    queryKey: keys.project(project).options.board,
    queryFn: () => take(client.GET("/api/projects/{project}/options", { params: { path: { project } } })),
  });

/** The posting sheet of a page. */
export const postingOf = (project: string, page: string) =>
  queryOptions({
    queryKey: keys.page(project, page).posting,
    queryFn: () => take(client.GET("/api/projects/{project}/pages/{page}/posting", at(project, page))),
  });

/** The report of a page. */
export const reportOf = (project: string, page: string) =>
  queryOptions({
    queryKey: keys.page(project, page).report,
    queryFn: () => take(client.GET("/api/projects/{project}/pages/{page}/report", at(project, page))),
  });

/** The elements and activities of the plan, where only their names are wanted. */
export const namesOf = (project: string) =>
  queryOptions({
    queryKey: keys.project(project).names,
    queryFn: () => take(client.GET("/api/projects/{project}/plan", { params: { path: { project } } })),
  });

/** What a project or a calendar can be begun from. */
export const templates = queryOptions({
  queryKey: keys.templates,
  queryFn: () => take(client.GET("/api/templates")),
});
