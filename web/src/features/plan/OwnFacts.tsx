import type { Schemas } from "../../api";
import { Entry, format, Pick } from "../../shared";
import { words } from "../../shared/words/kinds";

type Field = Schemas["OwnField"];

interface Props {
  fields: Field[];
  values: Record<string, unknown>;
  open: boolean;
  write: (key: string) => (text: string) => void;
  trouble: (key: string) => string | undefined;
}

/** The project's own fields of the project itself, each entered as what it holds. */
export function OwnFacts({ fields, values, open, write, trouble }: Props) {
  return fields.map((f) => {
    const key = `fields.${f.code}`;
    const value = values[f.code];
    const text = value === true ? "yes" : value === false ? "no" : value == null ? "" : String(value);
    const options = f.kind === "yes_no" ? words.kinds.yesNo : f.options.map((o): [string, string] => [o, o]);
    return f.kind === "choice" || f.kind === "yes_no" ? (
      <Pick
        key={key}
        label={f.name}
        value={text}
        options={[["", "–"], ...options]}
        disabled={!open}
        write={write(key)}
      />
    ) : (
      <Entry
        key={key}
        number={f.kind === "number" || f.kind === "money"}
        label={f.name}
        value={f.kind === "date" ? format.spokenDay(text) : text}
        disabled={!open}
        write={write(key)}
        trouble={trouble(key)}
      />
    );
  });
}
