import { type KeyboardEvent, useEffect, useId, useRef, useState } from "react";
import { asTyped } from "./formats";
import { EntryBox, Input, Select, Textarea, Why } from "./ui";
import { useWhenever } from "./useWhenever";

interface Props {
  label: string;
  value: string;
  /** Writes what was typed; a refusal comes back as `trouble`. */
  write: (text: string) => void;
  trouble?: string;
  disabled?: boolean;
  long?: boolean;
  choices?: string[];
  placeholder?: string;
  bare?: boolean;
  right?: boolean;
  /** Holds a number: it stands there with one's own sign before decimals. */
  number?: boolean;
  /** The label over what is typed, not beside it. */
  stacked?: boolean;
  /** The keyboard comes here, once for each that is given. */
  goTo?: object | null;
}

const SETTLE = 600;

/** A labelled entry that writes when it is left or Enter is pressed; Escape puts back what was there. */
export function Entry({
  label,
  value: given,
  write,
  trouble,
  disabled,
  long,
  choices,
  placeholder,
  bare,
  right,
  number,
  stacked,
  goTo,
}: Props) {
  const value = number ? asTyped(given) : given;
  const [text, setText] = useState(value);
  const id = useId();
  /** What was last sent, so that leaving the entry does not send it again before the answer is there. */
  const sent = useRef<string | null>(null);
  /** What is typed is never overwritten; nor is what was sent last by what was sent before it. */
  const now = useRef({ value, trouble, typing: false, sends: 0 });
  Object.assign(now.current, { value, trouble });
  useWhenever([value], () => {
    const follow = () => {
      if (now.current.typing || now.current.trouble) return;
      now.current.sends = 0;
      setText(now.current.value);
    };
    if (now.current.sends < 2) {
      follow();
      return;
    }
    const { sends } = now.current;
    const timer = setTimeout(() => now.current.sends === sends && follow(), SETTLE);
    return () => clearTimeout(timer);
  });
  useEffect(() => {
    if (goTo) document.getElementById(id)?.focus();
  }, [goTo, id]);
  const commit = () => {
    now.current.typing = false;
    if (text === value || text === sent.current) return;
    sent.current = text;
    now.current.sends++;
    write(text);
  };
  const type = (next: string) => {
    now.current.typing = true;
    sent.current = null;
    setText(next);
  };
  const keys = (event: KeyboardEvent) => {
    if (event.key === "Enter" && !(long && event.shiftKey)) {
      commit();
      event.preventDefault();
    } else if (event.key === "Escape") {
      type(value);
      now.current.typing = false;
    } else return;
    event.stopPropagation();
  };
  const common = {
    id,
    value: text,
    disabled,
    placeholder,
    "aria-label": bare ? label : undefined,
    "aria-invalid": trouble ? true : undefined,
    "aria-describedby": trouble ? `${id}-why` : undefined,
    onBlur: commit,
    onKeyDown: keys,
  } as const;
  return (
    <EntryBox data-entry="" bare={bare || stacked}>
      {!bare && <label htmlFor={id}>{label}</label>}
      {long ? (
        <Textarea {...common} rows={3} onChange={(e) => type(e.target.value)} />
      ) : (
        <Input
          {...common}
          textAlign={right ? "right" : undefined}
          list={choices ? `${id}-list` : undefined}
          onChange={(e) => type(e.target.value)}
        />
      )}
      {choices && (
        <datalist id={`${id}-list`}>
          {choices.map((c) => (
            <option key={c} value={c} />
          ))}
        </datalist>
      )}
      {trouble && (
        <Why id={`${id}-why`} role="alert">
          {trouble}
        </Why>
      )}
    </EntryBox>
  );
}

interface PickProps {
  label: string;
  value: string;
  options: [value: string, word: string][];
  write: (value: string) => void;
  disabled?: boolean;
  bare?: boolean;
}

/** A labelled choice of a few. */
export function Pick({ label, value, options, write, disabled, bare }: PickProps) {
  const id = useId();
  return (
    <EntryBox data-entry="" bare={bare}>
      {!bare && <label htmlFor={id}>{label}</label>}
      <Select
        id={id}
        aria-label={bare ? label : undefined}
        value={value}
        disabled={disabled}
        onChange={(e) => write(e.target.value)}
      >
        {options.map(([v, word]) => (
          <option key={v} value={v}>
            {word}
          </option>
        ))}
      </Select>
    </EntryBox>
  );
}
