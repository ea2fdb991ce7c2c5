import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { type KeyboardEvent, useId, useRef, useState } from "react";
import { useLocation, useNavigate } from "react-router";
import { format, postingOf, projectsOf, usePlace, useShortcut, words } from "../shared";
import { Input } from "../shared/ui";
import { Found } from "./frame";
import { ROOMS } from "./rooms";
import { toWork } from "./useKeyboard";

const MOST = 9;

interface Way {
  key: string;
  word: string;
  beside?: string;
  act: () => void;
}

/** Find an activity by name or code, which takes the sheet to it; or go to a room, a page or another project. */
export function FindBox({ mode, switchMode }: { mode: string; switchMode: () => void }) {
  const { project, page, frame, seek } = usePlace();
  const navigate = useNavigate();
  const station = useLocation().pathname.split("/").slice(3).join("/");
  const [text, setText] = useState("");
  const [open, setOpen] = useState(false);
  const [at, setAt] = useState(0);
  const input = useRef<HTMLInputElement>(null);
  /** Where the keyboard was before, and is again when nothing was found. */
  const from = useRef<HTMLElement | null>(null);
  const list = useId();
  const others = useQuery({ ...projectsOf, enabled: open });
  const sheet = useQuery({ ...postingOf(project, page.code), enabled: open });
  const find = () => input.current?.focus();
  useShortcut("/", find);
  useShortcut("mod+k", find);
  const wanted = text.trim().toLowerCase();
  const found = wanted ? [...activities(), ...ways()].slice(0, MOST) : [];
  function activities(): Way[] {
    return (sheet.data?.rows ?? [])
      .filter((r) => `${r.code} ${r.name}`.toLowerCase().includes(wanted))
      .slice(0, MOST - 3)
      .map((r) => ({ key: r.code, word: r.name, beside: r.code, act: () => seek(r.code) }));
  }
  /** Rooms, pages and what can be done from everywhere. */
  function ways(): Way[] {
    const to = (code: string, path: string) => () =>
      navigate(`/${encodeURIComponent(project)}/${encodeURIComponent(code)}/${path}`);
    const dark = mode === "dark";
    return [
      ...ROOMS.map((r) => ({ key: `room.${r.path}`, word: words.frame.go(r.word), act: to(page.code, r.path) })),
      ...frame.pages.map((p) => ({
        key: `page.${p.code}`,
        word: words.frame.goPage(p.number, format.fullDay(p.status)),
        act: to(p.code, station),
      })),
      ...(others.data?.projects ?? [])
        .filter((p) => p.code !== project)
        .map((p) => ({
          key: `project.${p.code}`,
          word: words.frame.goProject(p.code, p.name),
          act: () => navigate(`/${encodeURIComponent(p.code)}/now/${station}`),
        })),
      { key: "desk", word: words.frame.go(words.frame.desk), act: () => navigate("/") },
      { key: "mode", word: dark ? words.frame.toLight : words.frame.toDark, act: switchMode },
    ].filter((x) => wanted.split(/\s+/).every((part) => x.word.toLowerCase().includes(part)));
  }
  const choose = (one: Way | undefined) => {
    if (!one) return;
    setText("");
    setOpen(false);
    toWork();
    one.act();
  };
  const keys = (event: KeyboardEvent) => {
    if (event.key === "ArrowDown") setAt(Math.min(at + 1, found.length - 1));
    else if (event.key === "ArrowUp") setAt(Math.max(at - 1, 0));
    else if (event.key === "Enter") choose(found[at]);
    else if (event.key === "Escape") {
      setText("");
      if (from.current?.isConnected) from.current.focus();
      else toWork();
    } else return;
    event.preventDefault();
  };
  const shown = open && wanted !== "";
  return (
    <Box position="relative" flex="none">
      <Input
        ref={input}
        width="158px"
        role="combobox"
        aria-label={words.frame.find}
        aria-expanded={shown}
        aria-controls={list}
        aria-activedescendant={shown && found[at] ? `${list}-${at}` : undefined}
        placeholder={words.frame.findHint}
        value={text}
        onFocus={({ relatedTarget }) => {
          from.current = relatedTarget instanceof HTMLElement ? relatedTarget : null;
          setOpen(true);
        }}
        onBlur={() => setOpen(false)}
        onKeyDown={keys}
        onChange={(e) => {
          setText(e.target.value);
          setAt(0);
        }}
      />
      <Found id={list} role="listbox" aria-label={words.frame.find} hidden={!shown}>
        {found.map((r, i) => (
          <div
            key={r.key}
            id={`${list}-${i}`}
            role="option"
            tabIndex={-1}
            aria-selected={i === at}
            onMouseDown={(e) => {
              e.preventDefault();
              choose(r);
            }}
          >
            {r.word} <small>{r.beside}</small>
          </div>
        ))}
        {shown && found.length === 0 && <small>{sheet.isPending ? words.frame.loading : words.frame.findNone}</small>}
      </Found>
    </Box>
  );
}
