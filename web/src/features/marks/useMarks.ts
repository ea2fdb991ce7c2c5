import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { client, Problem, type Schemas, take } from "../../api";
import { keys, usePlace } from "../../shared";
import { refresh, useHeld, useWrites } from "../../shared/book";
import { conditionOf, type Rule } from "./rules";

const ruleOf = ({ code, scope, match, mark, reason, conditions }: Schemas["RuleOut"]): Rule => ({
  code,
  scope,
  match,
  mark,
  reason,
  conditions: conditions.map(conditionOf),
});

/** The rules of the page, a draft of them that is tried as it is made, and the ways to save it. */
export function useMarks() {
  const { project, page } = usePlace();
  const queries = useQueryClient();
  // What was begun is there again when one comes back.
  const [draft, setDraft] = useHeld<Rule[] | null>(keys.draft(`${project}.${page.code}.marks`), null);
  const path = { project, page: page.code };
  const key = keys.page(project, page.code).marks;
  const read = () => take(client.GET("/api/projects/{project}/pages/{page}/marks", { params: { path } }));
  const marks = useQuery({ queryKey: key, queryFn: read });
  const catalogue = useQuery({
    queryKey: keys.figures,
    queryFn: () => take(client.GET("/api/figures")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const kept = (marks.data?.rules ?? []).map(ruleOf);
  const rules = draft ?? kept;
  const tried = useQuery({
    queryKey: keys.page(project, page.code).marksTried(JSON.stringify(rules)),
    queryFn: () =>
      take(
        client.POST("/api/projects/{project}/pages/{page}/marks/try", {
          params: { path },
          body: { rules: rules },
        }),
      ),
    enabled: draft !== null,
    retry: false,
    placeholderData: keepPreviousData,
  });
  const writes = useWrites({
    project,
    part: `marks.${page.code}`,
    read: async () => queries.setQueryData(key, await read()),
  });
  const save = async (list: Rule[]) => {
    const done = await writes.write((revision) =>
      take(
        client.PUT("/api/projects/{project}/pages/{page}/marks", {
          params: { path },
          body: { revision, rules: list },
        }),
      ),
    );
    if (!done) return;
    queries.setQueryData(key, done.marks);
    setDraft(null);
    refresh(queries, project, ({ part }) => part === "marks");
  };
  const sets = (work: () => Promise<Schemas["MarksOut"]>) =>
    void writes.write(async () => {
      queries.setQueryData(key, await work());
      return true;
    });
  const wrong = tried.error instanceof Problem ? tried.error : null;
  return {
    marks,
    figures: catalogue.data?.figures ?? [],
    rules,
    draft,
    setDraft,
    tried: draft && !wrong ? tried.data : undefined,
    /** What of the draft is refused: the place of the rule, and why. */
    wrong:
      draft && wrong ? { at: Number(/\[(\d+)\]/.exec(wrong.field ?? "")?.[1] ?? -1), message: wrong.message } : null,
    refused: writes.refused,
    save,
    keepSet: (name: string) =>
      sets(() =>
        take(
          client.POST("/api/projects/{project}/pages/{page}/marks/sets", {
            params: { path },
            body: { name, rules: rules },
          }),
        ),
      ),
    dropSet: (pk: number) =>
      sets(() =>
        take(
          client.DELETE("/api/projects/{project}/pages/{page}/marks/sets/{id}", {
            params: { path: { ...path, id: pk } },
          }),
        ),
      ),
  };
}
