import { type FormEvent, useState } from "react";
import type { Schemas } from "../../api";
import { Button, Input, RowOf, Select, Soft } from "../../shared/ui";
import { words } from "../../shared/words/feeds";

const w = words.feeds;

interface AboutProps {
  feed?: Schemas["FeedOut"];
  save: (given: Schemas["FeedForm"]) => Promise<unknown>;
  remove?: () => void;
  shut: () => void;
}

/** A feed's name, what it holds and where it comes from. */
export function FeedAbout({ feed, save, remove, shut }: AboutProps) {
  const [name, setName] = useState(feed?.name ?? "");
  const [kind, setKind] = useState(feed?.kind ?? "timesheet");
  const [address, setAddress] = useState(feed?.address ?? "");
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (await save({ name, address, ...(feed ? {} : { kind }) })) shut();
  };
  return (
    <RowOf
      as="form"
      data-opened=""
      pt="0"
      px="14"
      pb="8"
      aria-label={w.feed}
      onSubmit={submit}
      onKeyDown={(e) => e.key === "Escape" && shut()}
    >
      <Input
        aria-label={w.name}
        placeholder={w.name}
        width="150px"
        autoFocus
        value={name}
        onChange={(e) => setName(e.target.value)}
      />
      {!feed && (
        <Select aria-label={w.kind} value={kind} onChange={(e) => setKind(e.target.value)}>
          {Object.entries(w.kinds).map(([k, word]) => (
            <option key={k} value={k}>
              {word}
            </option>
          ))}
        </Select>
      )}
      <Input
        aria-label={w.address}
        placeholder={w.addressHint}
        width="260px"
        value={address}
        onChange={(e) => setAddress(e.target.value)}
      />
      <Button look="seal" type="submit" disabled={!name.trim()}>
        {w.save}
      </Button>
      <Button onClick={shut}>{w.cancel}</Button>
      {remove && (
        <Button look="quiet" onClick={remove}>
          {w.remove}
        </Button>
      )}
    </RowOf>
  );
}

interface ColumnsProps {
  tray: Schemas["TrayOut"];
  fields: string[];
  save: (columns: Record<string, string>) => void;
}

/** Which column of the source is which of ours; it is remembered with the feed. */
export function FeedColumns({ tray, fields, save }: ColumnsProps) {
  return (
    <RowOf pt="0" px="14" pb="8" role="group" aria-label={w.columns}>
      {fields.map((f) => (
        <label key={f}>
          <Soft mr="4">{w.fields[f]}</Soft>
          <Select
            maxW="120px"
            value={tray.columns[f] ?? ""}
            aria-invalid={tray.needed.includes(f) || undefined}
            onChange={(e) => save({ ...tray.columns, [f]: e.target.value })}
          >
            <option value="">{w.unmapped}</option>
            {tray.heads.map((h) => (
              <option key={h}>{h}</option>
            ))}
          </Select>
        </label>
      ))}
    </RowOf>
  );
}
