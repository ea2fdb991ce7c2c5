import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { format, keys, Modal, Notice, usePlace } from "../../shared";
import { Button, DataTable, Soft } from "../../shared/ui";
import { words } from "../../shared/words/plan";
import type { Verb } from "./row";
import type { PlanHandle } from "./usePlan";

const w = words.plan.backward;

interface Props {
  plan: PlanHandle;
  /** The finish that is planned from: the imposed one, else the latest there is. */
  finish: string;
  imposed: boolean;
  shut: () => void;
}

/** The late dates as the plan: what would move is shown first, or why it can't be. */
export function Backward({ plan, finish, imposed, shut }: Props) {
  const { project } = usePlace();
  const [verbs] = useState<Verb[]>([{ do: "backward" }]);
  const seen = useQuery({
    queryKey: keys.project(project).part("plan", "backward"),
    queryFn: () => plan.preview(verbs),
    retry: false,
    gcTime: 0,
  });
  const does = (
    <Button
      look="seal"
      disabled={!seen.data}
      onClick={() => {
        plan.change(verbs);
        shut();
      }}
    >
      {w.go}
    </Button>
  );
  return (
    <Modal title={w.title} does={does} shut={shut} width="640px">
      <Soft as="p">{imposed ? w.from(format.fullDay(finish)) : w.fromLatest(format.fullDay(finish))}</Soft>
      {seen.isPending && <p role="status">{w.reckoning}</p>}
      {seen.isError && <Notice bad>{seen.error.message}</Notice>}
      {seen.data && (
        <>
          <p role="status">
            <b>{format.sentence(seen.data.label)}.</b> {w.finish(format.fullDay(seen.data.finish))}
          </p>
          <DataTable
            rows={seen.data.moved}
            keyOf={(m) => m.row}
            columns={[
              { title: words.columns.activity, cell: (m) => `${m.code} ${m.name}` },
              { title: w.was, kind: "date", cell: (m) => format.weekDay(m.before) },
              { title: w.becomes, kind: "date", cell: (m) => format.weekDay(m.after) },
              { title: w.later, kind: "num", cell: (m) => format.drift(m.days) },
            ]}
          />
          {seen.data.moved_count > seen.data.moved.length && (
            <Soft as="p">{w.more(seen.data.moved_count - seen.data.moved.length)}</Soft>
          )}
        </>
      )}
    </Modal>
  );
}
