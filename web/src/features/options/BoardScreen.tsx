import { useEffect, useState } from "react";
import { Link, useNavigate } from "react-router";
import { Bones, format, Notice, useAddressed, usePlace, useTopic } from "../../shared";
import {
  Act,
  Button,
  DataTable,
  Note,
  PartTitle,
  RoomHead,
  RowOf,
  ScrollBox,
  Soft,
  Space,
  Textarea,
  Told,
  Why,
} from "../../shared/ui";
import { words } from "../../shared/words/options";
import { OptionTabs } from "./OptionTabs";
import { Overlay } from "./Overlay";
import { type Board, type OptionRow, useOptionWrites } from "./useOptionWrites";

const w = words.options;
const LOOK = { laid: "ends" };

/** The board: the present plan and its options side by side, and laid over each other. */
export function BoardScreen() {
  const { project, page, person } = usePlace();
  const does = useOptionWrites("board");
  const { board } = does;
  const [look, setLook] = useAddressed(`${project}/options`, LOOK);
  const navigate = useNavigate();
  const at = `/${encodeURIComponent(project)}/${encodeURIComponent(page.code)}`;
  if (board.isPending) return <Bones />;
  if (!board.data) return <Notice bad>{board.error?.message}</Notice>;
  const data = board.data;
  const open = person.role !== "reader" && page.state === "wet";
  const make = async () => {
    const made = await does.make(w.newName(data.options.length + 1));
    if (made) navigate(`${at}/plan/option/${made.id}`);
  };
  return (
    <>
      <RoomHead>
        <h1>{w.title}</h1>
        <Told role="status">{does.writes.refused ? <Act role="alert">{does.writes.refused}</Act> : aimOf(data)}</Told>
        <Space />
        {data.present.buffer && (
          <Link to={`/${encodeURIComponent(project)}/${encodeURIComponent(page.code)}/buffers`}>{w.toBuffers}</Link>
        )}
        {open && (
          <>
            <Ask board={data} does={does} />
            <Button look="seal" onClick={make}>
              {w.make}
            </Button>
          </>
        )}
      </RoomHead>
      <OptionTabs />
      <ScrollBox>
        {page.state !== "wet" && <Soft as="p">{w.dry}</Soft>}
        {data.ask && (
          <RowOf role="note">
            <b>{w.asked(data.ask.by, format.day(data.ask.at))}</b>
            <span>{data.ask.text}</span>
          </RowOf>
        )}
        {data.options.length === 0 && <Soft as="p">{w.none}</Soft>}
        <Rows board={data} at={at} open={open} />
        <Note as="p">{w.asOf(format.fullDay(data.status), data.baseline ?? null)}</Note>
        {data.options.some((o) => o.standing) && (
          <>
            <PartTitle>
              {w.look.label}
              {(["ends", "timeline", "curve"] as const).map((key) => (
                <Button
                  key={key}
                  look="quiet"
                  aria-pressed={look.laid === key}
                  fontWeight={look.laid === key ? 600 : 400}
                  onClick={() => setLook({ laid: key })}
                >
                  {w.look[key]}
                </Button>
              ))}
            </PartTitle>
            <Overlay laid={look.laid} board={data} />
          </>
        )}
      </ScrollBox>
    </>
  );
}

type Buffer = Board["present"]["buffer"];
const used = (b: Buffer | undefined) => (b ? w.bufferUse(b.use === null ? null : format.tenth(b.use), b.zone) : "");
const chainEnd = (b: Buffer | undefined) => (b ? w.chainEnd(format.day(b.forecast_end), format.late(b.late_days)) : "");

/** What there is to win back. */
function aimOf({ present, deadline }: Board) {
  if (!deadline || present.deadline_days == null) return "";
  const day = format.fullDay(deadline);
  return present.deadline_days > 0 ? w.aim(format.tenth(present.deadline_days), day) : w.meets(day);
}

function Rows({ board, at, open }: { board: Board; at: string; open: boolean }) {
  const { tell } = usePlace();
  const topic = useTopic();
  const chosen = topic?.about === "option" ? topic.id : "";
  // The option that the address of the margin spoke of may be gone.
  useEffect(() => {
    if (chosen && !board.options.some((o) => String(o.id) === chosen)) tell(null);
  }, [board.options, chosen, tell]);
  const c = w.columns;
  const imposed = board.imposed_finish != null;
  const stands = (o: OptionRow | null) => o?.standing ?? board.present;
  return (
    <DataTable
      css={{
        "& td": { verticalAlign: "top" },
        "& th": { whiteSpace: "normal" },
        "& th:first-of-type": { minW: "190px" },
      }}
      rows={[null, ...board.options]}
      keyOf={(o) => o?.id ?? ""}
      line={(o) => ({ "aria-current": (o && chosen === String(o.id)) || undefined, "data-option": o?.code })}
      instead={(o) => (o && !o.standing ? notStanding(o) : undefined)}
      columns={[
        { title: c.option, cell: (o) => (o ? <Named option={o} at={at} open={open} /> : <Present />) },
        { title: c.finish, kind: "date", cell: (o) => format.day(stands(o).finish) },
        !!board.deadline && { title: c.deadline, kind: "num", cell: (o) => gap(stands(o).deadline_days) },
        imposed && { title: c.imposed, kind: "num", cell: (o) => gap(stands(o).imposed_days) },
        { title: c.eac, kind: "num", cell: (o) => money(stands(o).eac) },
        { title: c.vac, kind: "num", cell: (o) => money(stands(o).vac) },
        { title: c.float, kind: "num", cell: (o) => days(stands(o).float_days) },
        { title: c.overlaps, kind: "num", cell: (o) => (o?.overlaps?.length ? w.pairs(o.overlaps.length) : "–") },
        !!board.present.buffer && { title: c.buffer, kind: "num", cell: (o) => used(stands(o).buffer) },
        !!board.present.buffer && { title: c.promise, cell: (o) => chainEnd(stands(o).buffer) },
        { title: c.over, kind: "num", cell: (o) => w.hours(format.tenth(stands(o).over_hours)) },
      ]}
    />
  );
}

/** What is to be said of an option beside its figures. */
function WhatItWins({ option: o }: { option: OptionRow }) {
  const wrong = o.changes.filter((x) => x.conflict).length;
  const won = o.gained_days ?? 0;
  if (!o.standing) return null;
  return (
    <Note as="div">
      {won > 0 ? w.gains(format.tenth(won)) : won < 0 ? w.loses(format.tenth(-won)) : w.same}
      {wrong > 0 ? (
        <>
          {"; "}
          <Act>{w.conflicts(wrong)}</Act>
        </>
      ) : (
        o.moved_on && `; ${w.movedOn}`
      )}
    </Note>
  );
}

const notStanding = (o: OptionRow) =>
  o.problem ? <Act>{o.problem}</Act> : <Soft>{o.state === "adopted" ? w.adopted : ""}</Soft>;

const money = (amount: string | null | undefined) =>
  amount?.startsWith("-") ? <Act>{format.money(amount, true)}</Act> : format.money(amount, true);
const days = (float: number | null | undefined) => (float == null ? "–" : w.days(format.tenth(float)));
/** How far behind or ahead of a date that is to be met. */
function gap(late: number | null | undefined) {
  if (late == null) return "–";
  if (late > 0) return <Act>{w.after(format.tenth(late))}</Act>;
  return late < 0 ? w.before(format.tenth(-late)) : w.onTime;
}

const Present = () => (
  <>
    <b>{w.present}</b>
    <Note as="div">{w.presentNote}</Note>
  </>
);

/** An option by name, with what it wins. */
function Named({ option: o, at, open }: { option: OptionRow; at: string; open: boolean }) {
  const { tell } = usePlace();
  return (
    <>
      <Button
        look="link"
        whiteSpace="normal"
        minH="0"
        fontWeight={600}
        onClick={() => tell({ about: "option", id: String(o.id), code: o.code })}
      >
        {o.code} {o.name}
      </Button>
      <Note as="div">{o.notes}</Note>
      <WhatItWins option={o} />
      {open && o.state !== "adopted" && (
        <Note as="div">
          <Link to={`${at}/plan/option/${o.id}`}>{w.open}</Link>
        </Note>
      )}
    </>
  );
}

/** Asking readers for a choice. */
function Ask({ board, does }: { board: Board; does: ReturnType<typeof useOptionWrites> }) {
  const [text, setText] = useState<string | null>(null);
  if (text === null) return <Button onClick={() => setText(board.ask?.text ?? "")}>{w.ask}</Button>;
  const send = async (question: string) => {
    if (await does.ask(question)) setText(null);
  };
  return (
    <RowOf
      as="form"
      mt="0"
      onSubmit={(e) => {
        e.preventDefault();
        void send(text);
      }}
    >
      <Textarea
        aria-label={w.askText}
        rows={1}
        width="260px"
        autoFocus
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      <Button type="submit">{w.askNow}</Button>
      {board.ask && <Button onClick={() => void send("")}>{w.askBack}</Button>}
      {does.why("ask") && <Why role="alert">{does.why("ask")}</Why>}
    </RowOf>
  );
}
