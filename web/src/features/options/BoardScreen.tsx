import { useEffect, useState } from "react";
import { Link, useNavigate } from "react-router";
import { Bones, format, Notice, useAddressed, usePlace, useTopic } from "../../shared";
import {
  Act,
  Button,
  Note,
  PartTitle,
  RoomHead,
  RowOf,
  ScrollBox,
  Soft,
  Space,
  Table,
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
  return (
    <Table
      css={{
        "& td": { verticalAlign: "top" },
        "& th": { whiteSpace: "normal" },
        "& th:first-of-type": { minW: "190px" },
      }}
    >
      <thead>
        <tr>
          <th>{c.option}</th>
          <th>{c.finish}</th>
          {board.deadline && <th data-num="">{c.deadline}</th>}
          {imposed && <th data-num="">{c.imposed}</th>}
          <th data-num="">{c.eac}</th>
          <th data-num="">{c.vac}</th>
          <th data-num="">{c.float}</th>
          <th data-num="">{c.overlaps}</th>
          <th data-num="">{c.over}</th>
        </tr>
      </thead>
      <tbody>
        <tr>
          <td>
            <b>{w.present}</b>
            <Note as="div">{w.presentNote}</Note>
          </td>
          <Figures board={board} stands={board.present} overlaps="–" />
        </tr>
        {board.options.map((o) => (
          <tr key={o.id} aria-current={chosen === String(o.id) || undefined} data-option={o.code}>
            <td>
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
            </td>
            {o.standing ? (
              <Figures
                board={board}
                stands={o.standing}
                overlaps={o.overlaps?.length ? w.pairs(o.overlaps.length) : "–"}
              />
            ) : (
              <td colSpan={8}>
                {o.problem ? <Act>{o.problem}</Act> : <Soft>{o.state === "adopted" ? w.adopted : ""}</Soft>}
              </td>
            )}
          </tr>
        ))}
      </tbody>
    </Table>
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

function Figures({ board, stands: s, overlaps }: { board: Board; stands: Board["present"]; overlaps: string }) {
  const gap = (days: number | null | undefined) =>
    days == null ? (
      "–"
    ) : days > 0 ? (
      <Act>{w.after(format.tenth(days))}</Act>
    ) : days < 0 ? (
      w.before(format.tenth(-days))
    ) : (
      w.onTime
    );
  return (
    <>
      <td data-date="">{format.day(s.finish)}</td>
      {board.deadline && <td data-num="">{gap(s.deadline_days)}</td>}
      {board.imposed_finish && <td data-num="">{gap(s.imposed_days)}</td>}
      <td data-num="">{s.eac ? format.money(s.eac, true) : "–"}</td>
      <td data-num="">{s.vac?.startsWith("-") ? <Act>{format.money(s.vac, true)}</Act> : format.money(s.vac, true)}</td>
      <td data-num="">{s.float_days == null ? "–" : w.days(format.tenth(s.float_days))}</td>
      <td data-num="">{overlaps}</td>
      <td data-num="">{w.hours(format.tenth(s.over_hours))}</td>
    </>
  );
}

/** Asking readers for a choice. */
function Ask({ board, does }: { board: Board; does: ReturnType<typeof useOptionWrites> }) {
  const [text, setText] = useState<string | null>(null);
  if (text === null) return <Button onClick={() => setText(board.ask?.text ?? "")}>{w.ask}</Button>;
  const send = async (said: string) => {
    if (await does.ask(said)) setText(null);
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
