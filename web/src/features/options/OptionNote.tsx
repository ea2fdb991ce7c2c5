import { Box } from "@chakra-ui/react";
import { useState } from "react";
import { Link } from "react-router";
import { Bones, Entry, format, usePlace } from "../../shared";
import {
  Act,
  Button,
  ChoiceLine,
  Input,
  MarginHead,
  MarginTitle,
  Note,
  Pair,
  RowOf,
  Select,
  Soft,
  Textarea,
  Why,
} from "../../shared/ui";
import { words } from "../../shared/words/options";
import { Adopt } from "./Adopt";
import { type Board, type OptionRow, useOptionWrites } from "./useOptionWrites";

const w = words.note;
/** So many changes are listed until all are asked for. */
const MOST = 30;
type Does = ReturnType<typeof useOptionWrites>;

interface Part {
  option: OptionRow;
  board: Board;
  does: Does;
  open: boolean;
}

/** The margin of an option: what it changes, what it gains and costs, what people say of it, and adopting it. */
export function OptionNote({ topic: { id } }: { topic: { id: string } }) {
  const { person, page } = usePlace();
  const does = useOptionWrites(`note.${id}`);
  const board = does.board.data;
  const option = board?.options.find((o) => String(o.id) === id);
  if (!board || !option) return <Bones />;
  const may = person.role !== "reader" && page.state === "wet";
  const open = may && option.state !== "adopted";
  const part = { option, board, does, open };
  return (
    <Box>
      <MarginTitle>
        {option.code} {option.name}
      </MarginTitle>
      {option.state === "adopted" && <Soft as="p">{w.isPlan}</Soft>}
      {does.writes.refused && <Why role="alert">{does.writes.refused}</Why>}
      {open && (
        <>
          <Entry
            stacked
            label={w.name}
            value={option.name}
            trouble={does.why("name")}
            write={(name) => void does.describe(option.id, { name })}
          />
          <Entry
            stacked
            long
            label={w.risk}
            value={option.notes}
            trouble={does.why("notes")}
            write={(notes) => void does.describe(option.id, { notes })}
          />
        </>
      )}
      <Changes {...part} />
      {option.standing && <Stands option={option} board={board} />}
      {open && <More {...part} />}
      <Remarks {...part} />
      {may && <Adopt {...part} />}
    </Box>
  );
}

function Changes({ option, does, open }: Part) {
  const [keep, setKeep] = useState<number[]>([]);
  const [left, setLeft] = useState(0);
  const [all, setAll] = useState(false);
  const { project, page } = usePlace();
  const wrong = option.changes.some((c) => c.conflict);
  const rebase = async () => {
    const done = await does.rebase(option.id, keep);
    if (done) {
      setLeft(done.left_out.length);
      setKeep([]);
    }
  };
  return (
    <>
      <MarginHead>{w.changes}</MarginHead>
      {option.changes.length === 0 && <Note as="p">{w.noChanges}</Note>}
      {option.changes.slice(0, all ? undefined : MOST).map((c, n) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a change is its place
        <Box key={n} borderBottom="1px dotted" borderColor="ruleStrong" py="4">
          <Pair py="0">
            <span>{c.about}</span>
            {open && (
              <Button
                look="quiet"
                py="0"
                px="4"
                aria-label={`${w.drop}: ${c.about}`}
                data-tip={w.drop}
                onClick={() => void does.dropChange(option.id, n)}
              >
                ×
              </Button>
            )}
          </Pair>
          <Note as="div">{c.what}</Note>
          {c.conflict && <Why>{c.conflict}</Why>}
          {c.conflict && c.moved_on && open && (
            <ChoiceLine>
              <Input
                type="checkbox"
                look="bare"
                aria-label={w.keepIt(`${c.about}: ${c.what}`)}
                checked={keep.includes(n)}
                onChange={(e) => setKeep(e.target.checked ? [...keep, n] : keep.filter((k) => k !== n))}
              />
              {w.keep}
            </ChoiceLine>
          )}
        </Box>
      ))}
      {!all && option.changes.length > MOST && (
        <Button look="link" onClick={() => setAll(true)}>
          {w.moreChanges(option.changes.length - MOST)}
        </Button>
      )}
      {open && (
        <RowOf>
          <Link to={`/${encodeURIComponent(project)}/${encodeURIComponent(page.code)}/plan/option/${option.id}`}>
            {words.options.open}
          </Link>
        </RowOf>
      )}
      {open && (wrong || option.moved_on) && (
        <RowOf>
          <Button onClick={() => void rebase()}>{w.rebase}</Button>
          {wrong && <Note>{w.rebaseSays}</Note>}
        </RowOf>
      )}
      {left > 0 && (
        <Note as="p" role="status">
          {w.leftOut(left)}
        </Note>
      )}
    </>
  );
}

function Stands({ option, board }: { option: OptionRow; board: Board }) {
  const s = option.standing;
  if (!s) return null;
  const moved = s.milestones.filter((m) => Math.abs(m.days) >= 0.05);
  return (
    <>
      {option.overlaps && option.overlaps.length > 0 && (
        <>
          <MarginHead>{w.overlaps}</MarginHead>
          {option.overlaps.map((pair) => (
            <div key={pair}>{pair}</div>
          ))}
        </>
      )}
      {moved.length > 0 && <MarginHead>{w.milestones}</MarginHead>}
      {moved.map((m) => (
        <Pair key={m.code} dotted>
          <span>{m.name}</span>
          <span>
            {format.day(m.finish)} {m.days > 0 ? <Act>{format.drift(m.days)}</Act> : format.drift(m.days)}
          </span>
        </Pair>
      ))}
      <MarginHead>{w.costs(board.currency)}</MarginHead>
      {Object.entries(s.cost_by_kind).map(([kind, amount]) => (
        <Pair key={kind} dotted>
          <span>{w.kind(kind)}</span>
          <span>{format.money(amount as string, true)}</span>
        </Pair>
      ))}
    </>
  );
}

/** Another one like it, or of it and another; and taking it away. */
function More({ option, board, does }: Part) {
  const { tell } = usePlace();
  const others = board.options.filter((o) => o.id !== option.id && o.state !== "adopted");
  const [other, setOther] = useState("");
  const [left, setLeft] = useState<string[]>([]);
  const make = async (name: string, options: number[]) => {
    const made = await does.make(name, { options });
    if (made?.left_out.length) setLeft(made.left_out);
    else if (made) tell({ about: "option", id: String(made.id), code: "" });
  };
  const stacked = others.find((o) => String(o.id) === other);
  return (
    <RowOf>
      {left.length > 0 && (
        <Why role="status">
          {w.leftOut(left.length)} {left.join(" ")}
        </Why>
      )}
      <Button onClick={() => void make(w.copyOf(option.name), [option.id])}>{w.copy}</Button>
      <Button onClick={() => void does.remove(option.id)}>{w.remove}</Button>
      {others.length > 0 && (
        <>
          <Select aria-label={w.stack} value={other} onChange={(e) => setOther(e.target.value)} maxW="150px">
            <option value="">{w.stack}…</option>
            {others.map((o) => (
              <option key={o.id} value={o.id}>
                {o.code} {o.name}
              </option>
            ))}
          </Select>
          {stacked && (
            <Button onClick={() => void make(w.both(option.name, stacked.name), [option.id, stacked.id])}>
              {w.stackNow}
            </Button>
          )}
        </>
      )}
    </RowOf>
  );
}

function Remarks({ option, board, does }: Part) {
  const [text, setText] = useState("");
  const remarks = board.remarks.filter((r) => r.option === option.id);
  const send = async (chosen: boolean) => {
    if (await does.remark(option.id, text, chosen)) setText("");
  };
  return (
    <>
      <MarginHead>{w.opinions}</MarginHead>
      {remarks.map((r, n) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: remarks are only ever added
        <Box key={n} borderLeftWidth="3px" borderColor="ruleStrong" pl="8" my="4">
          {r.text && <div>“{r.text}”</div>}
          <Note>
            {r.by}, {format.day(r.at)}
            {r.chosen && `: ${w.chose}`}
          </Note>
        </Box>
      ))}
      {option.state !== "adopted" && (
        <>
          <Textarea
            aria-label={w.say}
            placeholder={w.say}
            rows={2}
            width="100%"
            value={text}
            onChange={(e) => setText(e.target.value)}
          />
          {does.why("text") && <Why role="alert">{does.why("text")}</Why>}
          <RowOf mt="2">
            <Button onClick={() => void send(false)}>{w.sayNow}</Button>
            <Button onClick={() => void send(true)}>{w.choose}</Button>
          </RowOf>
        </>
      )}
    </>
  );
}
