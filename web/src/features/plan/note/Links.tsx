import { useState } from "react";
import { Link } from "react-router";
import { Entry, Pick } from "../../../shared";
import { Button, Input, MarginHead, NoteLine, NoteName, Soft, Why } from "../../../shared/ui";
import { words } from "../../../shared/words/plan";
import { Cross } from "../Cross";
import { type Part, useWrite } from "./part";

const w = words.plan.note;

const TYPES: [string, string][] = [
  ["FS", "FS"],
  ["SS", "SS"],
  ["FF", "FF"],
  ["SF", "SF"],
];

/** What an activity comes after and goes before. */
export function Links(part: Part) {
  const { note, open, plan } = part;
  const { on, remove, run, trouble } = useWrite(part);
  const [text, setText] = useState("");
  const rows = plan.sheet.data?.rows;
  const options = text
    ? [...(rows?.values() ?? [])]
        .filter(
          (r) =>
            r.kind !== "wbs" &&
            r.id !== note.row.id &&
            `${r.code} ${r.name}`.toLowerCase().includes(text.toLowerCase()),
        )
        .slice(0, 12)
    : [];
  const add = () => {
    const code = text.split(" ")[0]?.toLowerCase();
    const found = options.find((r) => r.code.toLowerCase() === code) ?? options[0];
    if (!found) return;
    run({ do: "add", list: "links", from: found.id, to: note.row.id }, "after", text);
    setText("");
  };
  return (
    <>
      <MarginHead>{w.after}</MarginHead>
      {note.before.map((k) => (
        <NoteLine key={k.id} data-tip={k.words}>
          <NoteName>
            {k.code} {k.name}
          </NoteName>
          <Pick
            bare
            label={w.type(k.name)}
            value={k.type}
            options={TYPES}
            disabled={!open}
            write={(type) => on(k.id, { type }, "type", type, "link")}
          />
          <Entry
            bare
            right
            number
            label={w.lag(k.name)}
            value={k.lag === "0d" ? "" : k.lag}
            placeholder={w.lagHint}
            disabled={!open}
            write={(lag) => on(k.id, { lag }, "lag", lag, "link")}
            trouble={trouble("lag", k.id)}
          />
          {open && <Cross label={w.cut(k.name)} act={() => remove(k.id)} />}
          {k.note && <Soft>{k.note}</Soft>}
        </NoteLine>
      ))}
      {note.before.length === 0 && <Soft as="div">{w.noLinks}</Soft>}
      {open && (
        <NoteLine
          as="form"
          onSubmit={(e) => {
            e.preventDefault();
            add();
          }}
        >
          <Input
            aria-label={w.addLink}
            placeholder={w.addLink}
            value={text}
            list="link-options"
            onChange={(e) => setText(e.target.value)}
          />
          <datalist id="link-options">
            {options.map((r) => (
              <option key={r.id} value={`${r.code} ${r.name}`} />
            ))}
          </datalist>
          <Button type="submit">{w.link}</Button>
        </NoteLine>
      )}
      {trouble("after") && <Why role="alert">{trouble("after")}</Why>}
      {note.after.length > 0 && (
        <>
          <MarginHead>{w.before}</MarginHead>
          {note.after.map((k) => (
            <NoteLine key={k.id}>
              <NoteName>
                {k.code} {k.name}
              </NoteName>
              <Soft>{[k.type === "FS" ? "" : k.type, k.lag === "0d" ? "" : k.lag].join(" ")}</Soft>
              {open && <Cross label={w.cut(k.name)} act={() => remove(k.id)} />}
            </NoteLine>
          ))}
        </>
      )}
      {(note.waiting ?? []).length > 0 && (
        <>
          <MarginHead>{w.waiting}</MarginHead>
          {(note.waiting ?? []).map((x) => (
            <NoteLine key={`${x.project}/${x.code}`}>
              <NoteName>
                <Link to={`/${encodeURIComponent(x.project)}/now/plan`}>
                  {x.project}/{x.code}
                </Link>{" "}
                {x.name}
              </NoteName>
            </NoteLine>
          ))}
        </>
      )}
    </>
  );
}
