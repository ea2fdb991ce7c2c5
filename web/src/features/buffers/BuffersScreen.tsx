import { Bones, format, Notice, useAddressed, usePlace } from "../../shared";
import { Button, RoomHead, RowOf, ScrollBox, Soft, Space, Told } from "../../shared/ui";
import { words } from "../../shared/words/buffers";
import { ChainView } from "./ChainView";
import { FeverView } from "./FeverView";
import { HandOvers } from "./HandOvers";
import { TimeView } from "./TimeView";
import { type Buffers, useBuffers } from "./useBuffers";

const w = words.buffers;
const VIEWS = ["fever", "time", "chain"] as const;

/** Buffers: use over progress, the chain on the timeline, and the chain itself. */
export function BuffersScreen() {
  const { project } = usePlace();
  const does = useBuffers();
  const [{ view }, set] = useAddressed(`${project}/buffers`, { view: "" });
  if (does.buffers.isPending) return <Bones />;
  if (!does.buffers.data) return <Notice bad>{does.buffers.error?.message}</Notice>;
  const data = does.buffers.data;
  const fever = data.fever;
  const shown = VIEWS.find((v) => v === view) ?? (fever ? "fever" : "chain");
  return (
    <>
      <RoomHead>
        <h1>{w.title}</h1>
        <Told>{toldOf(data)}</Told>
        <Space />
        <RowOf mt="0" role="group" aria-label={w.views.label}>
          {VIEWS.filter((v) => v !== "fever" || fever).map((v) => (
            <Button key={v} aria-pressed={v === shown} onClick={() => set({ view: v })}>
              {w.views[v]}
            </Button>
          ))}
        </RowOf>
      </RoomHead>
      <ScrollBox>
        {data.open === 0 && <Soft as="p">{w.finished}</Soft>}
        {!data.any_safe && data.open > 0 && <Soft as="p">{w.noSafe}</Soft>}
        {!fever && data.any_safe && data.open > 0 && <Soft as="p">{w.noPromise}</Soft>}
        {fever && data.wet && data.posted === 0 && <Soft as="p">{w.silent}</Soft>}
        {shown === "fever" && fever && <FeverView fever={fever} wet={data.wet} />}
        {shown === "time" && <TimeView data={data} />}
        {shown !== "chain" && <HandOvers data={data} does={does} />}
        {shown === "chain" && <ChainView data={data} does={does} />}
      </ScrollBox>
    </>
  );
}

function toldOf({ fever, wet }: Buffers) {
  if (!fever) return "";
  const against = w.against(fever.approved_by, fever.page ?? "", format.fullDay(fever.date));
  return wet ? against : `${against}; ${w.dry}`;
}
