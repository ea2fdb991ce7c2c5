import { useMutation, useQueryClient } from "@tanstack/react-query";
import { client, type Schemas, take } from "../../api";
import { keys, oneOf, Pick } from "../../shared";
import { FactsGrid, Soft, Why } from "../../shared/ui";
import { words } from "../../shared/words/people";

const w = words.own;
const SIGNS = [".", ","] as const;
const FIRST = ["mon", "sat", "sun"] as const;

/** How one writes numbers and dates. */
export function OwnFormats({ formats }: { formats: Schemas["FormatsOut"] }) {
  const queries = useQueryClient();
  const set = useMutation({
    mutationFn: (body: Schemas["PatchedFormatsForm"]) => take(client.PATCH("/api/session/formats", { body })),
    scope: { id: "formats" },
    onSuccess: (session) => {
      queries.setQueryData(keys.session, session);
      // What was read until now has words in the formats of before.
      queries.removeQueries({ predicate: (q) => q.queryKey[0] !== "session" });
    },
  });
  const order = formats.month_first ? "month" : "day";
  return (
    <>
      <Soft as="p">{w.formatsOf}</Soft>
      <FactsGrid three>
        <Pick
          label={w.decimal}
          value={formats.decimal}
          options={w.decimals}
          write={(decimal) => set.mutate({ decimal: oneOf(SIGNS, decimal) })}
        />
        <Pick
          label={w.order}
          value={order}
          options={w.orders}
          write={(to) => set.mutate({ month_first: to === "month" })}
        />
        <Pick
          label={w.week}
          value={formats.first_day}
          options={w.weeks}
          write={(first_day) => set.mutate({ first_day: oneOf(FIRST, first_day) })}
        />
      </FactsGrid>
      {set.error && <Why role="alert">{set.error.message}</Why>}
    </>
  );
}
