import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { client, type Schemas, take } from "../../api";
import { keys } from "../../shared";

type Given = Schemas["GivenOut"];
type Does = Schemas["PersonDoes"]["do"];

export const ROLES: ["none", "reader", "analyst", "approver"] = ["none", "reader", "analyst", "approver"];
/** What can be done with somebody's way in. */
export const DOES: [Does, ...Does[]] = ["reset", "expire", "sign-out", "lift"];

/** Everybody, and what an administrator does with them. */
export function usePeople() {
  const queries = useQueryClient();
  const people = useQuery({ queryKey: keys.people, queryFn: () => take(client.GET("/api/people")) });
  const done = { onSuccess: () => queries.invalidateQueries({ queryKey: keys.people }) };
  const add = useMutation({
    mutationFn: (body: Schemas["NewPerson"]): Promise<Given> => take(client.POST("/api/people", { body })),
    ...done,
  });
  const change = useMutation({
    mutationFn: ({ id, ...body }: { id: number } & Schemas["PatchedPersonChange"]): Promise<Given> =>
      take(client.PATCH("/api/people/{id}", { params: { path: { id } }, body })),
    ...done,
  });
  const way = useMutation({
    mutationFn: ({ id, what }: { id: number; what: Does }): Promise<Given> =>
      take(client.POST("/api/people/{id}", { params: { path: { id } }, body: { do: what } })),
    ...done,
  });
  return { people, add, change, way };
}
