import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { type KeyboardEvent, useId, useRef, useState } from "react";
import { client, take } from "../api";
import { usePlace, useShortcut, words } from "../shared";
import { Input } from "../shared/ui";

const MOST = 9;

/** Find an activity by name or code; choosing it opens its margin and takes the sheet to it. */
export function FindBox() {
  const { project, page, seek } = usePlace();
  const [text, setText] = useState("");
  const [open, setOpen] = useState(false);
  const [at, setAt] = useState(0);
  const input = useRef<HTMLInputElement>(null);
  const list = useId();
  const sheet = useQuery({
    queryKey: [project, page.code, "posting"],
    queryFn: () =>
      take(
        client.GET("/api/projects/{project}/pages/{page}/posting", { params: { path: { project, page: page.code } } }),
      ),
    enabled: open,
  });
  const find = () => input.current?.focus();
  useShortcut("/", find);
  useShortcut("mod+k", find);
  const wanted = text.trim().toLowerCase();
  const found = wanted
    ? (sheet.data?.rows ?? []).filter((r) => `${r.code} ${r.name}`.toLowerCase().includes(wanted)).slice(0, MOST)
    : [];
  const choose = (code: string | undefined) => {
    if (!code) return;
    seek(code);
    setText("");
    setOpen(false);
    input.current?.blur();
  };
  const keys = (event: KeyboardEvent) => {
    if (event.key === "ArrowDown") setAt(Math.min(at + 1, found.length - 1));
    else if (event.key === "ArrowUp") setAt(Math.max(at - 1, 0));
    else if (event.key === "Enter") choose(found[at]?.code);
    else if (event.key === "Escape") {
      setText("");
      input.current?.blur();
    } else return;
    event.preventDefault();
  };
  const shown = open && wanted !== "";
  return (
    <Box position="relative" flex="none">
      <Input
        ref={input}
        className="find"
        role="combobox"
        aria-label={words.frame.find}
        aria-expanded={shown}
        aria-controls={list}
        aria-activedescendant={shown && found[at] ? `${list}-${at}` : undefined}
        placeholder={words.frame.findHint}
        value={text}
        onFocus={() => setOpen(true)}
        onBlur={() => setOpen(false)}
        onKeyDown={keys}
        onChange={(e) => {
          setText(e.target.value);
          setAt(0);
        }}
      />
      <div id={list} role="listbox" aria-label={words.frame.find} className="found" hidden={!shown}>
        {found.map((r, i) => (
          <div
            key={r.code}
            id={`${list}-${i}`}
            role="option"
            tabIndex={-1}
            aria-selected={i === at}
            onMouseDown={(e) => {
              e.preventDefault();
              choose(r.code);
            }}
          >
            {r.name} <small>{r.code}</small>
          </div>
        ))}
        {shown && found.length === 0 && <small>{sheet.isPending ? words.frame.loading : words.frame.findNone}</small>}
      </div>
    </Box>
  );
}
