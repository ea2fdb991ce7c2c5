import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { client, type Schemas, take } from "../../api";
import { Bones, keys, Notice, usePlace } from "../../shared";

/** How the money of a page is asked for. */
export const moneyOf = (project: string, page: string) => ({
  queryKey: keys.page(project, page).money,
  queryFn: () =>
    take(client.GET("/api/projects/{project}/pages/{page}/money", { params: { path: { project, page } } })),
});

/** What is drawn once the money of the page is known. */
export function WithMoney({ children }: { children: (money: Schemas["MoneyOut"]) => ReactNode }) {
  const { project, page } = usePlace();
  const money = useQuery(moneyOf(project, page.code));
  if (money.isPending) return <Bones />;
  return money.data ? children(money.data) : <Notice bad>{money.error?.message}</Notice>;
}
