import { Box, chakra, Flex } from "@chakra-ui/react";
import { useEffect, useState } from "react";
import { Link, useOutletContext } from "react-router";
import type { Schemas } from "../../api";
import { Bones, format, Notice } from "../../shared";
import { Button, Input, Soft, Textarea, Why } from "../../shared/ui";
import { words } from "../../shared/words/myWork";
import { PersonMenu } from "../accounts";
import { type Draft, draftKey, says, useMyWork } from "./useMyWork";

const w = words.myWork;
type Row = Schemas["WorkRow"];
type Work = Schemas["WorkOut"];
/** Large enough for a thumb, and for text at twice its size. */
const LARGE = { minH: "48px", fontSize: "lead", px: "12", width: "100%" } as const;

/** What one is asked for, to be answered with a thumb; it is kept on this device until it has arrived. */
export function MyWorkScreen() {
  const { person, mode, switchMode } = useOutletContext<{
    person: Schemas["PersonOut"];
    mode: string;
    switchMode: () => void;
  }>();
  const mine = useMyWork(person.username);
  const { work, kept } = mine;
  const [open, setOpen] = useState("");
  useEffect(() => {
    document.title = `${w.title} · ${words.product}`;
  }, []);
  const typed = Object.values(kept.drafts).filter(says).length;
  return (
    <Flex direction="column" minH="100dvh" bg="sheet">
      <Flex
        as="header"
        align="center"
        gap="4"
        px="14"
        minH="52px"
        wrap="wrap"
        borderBottomWidth="1px"
        borderColor="ruleStrong"
      >
        <Box flex="1" fontFamily="heading" fontWeight="600" fontSize="lead" whiteSpace="nowrap">
          {person.role === "none" ? w.title : <Link to="/">{words.product}</Link>}
        </Box>
        <PersonMenu person={person} mode={mode} switchMode={switchMode} />
      </Flex>
      <Box as="main" id="sheet" tabIndex={-1} flex="1" width="100%" maxW="560px" mx="auto" px="14" pb="120px">
        {!work && mine.read.isPending && <Bones />}
        {!work && mine.read.isError && <Notice bad>{mine.read.error.message}</Notice>}
        {work?.work.length === 0 && <Notice>{w.none}</Notice>}
        {work?.work.map((x) => (
          <One key={x.request} work={x} mine={mine} open={open} setOpen={setOpen} />
        ))}
      </Box>
      {work && work.work.length > 0 && (
        <Box position="sticky" bottom="0" bg="sheet" borderTopWidth="1px" borderColor="ruleStrong" px="14" py="10">
          <Box maxW="560px" mx="auto">
            <Box role="status" pb="6" color={mine.away && kept.unsent.length ? "act" : "soft"}>
              {kept.unsent.length > 0
                ? mine.away
                  ? w.away(kept.unsent.length)
                  : w.sending(kept.unsent.length)
                : typed
                  ? w.typed(typed)
                  : w.all}
            </Box>
            <Button look="seal" {...LARGE} disabled={!typed} onClick={mine.sendAll}>
              {w.send(typed)}
            </Button>
          </Box>
        </Box>
      )}
    </Flex>
  );
}

interface OneProps {
  work: Work;
  mine: ReturnType<typeof useMyWork>;
  open: string;
  setOpen: (key: string) => void;
}

/** What is asked on one page of a project. */
function One({ work, mine, open, setOpen }: OneProps) {
  const { kept } = mine;
  const unsent = new Set(kept.unsent.map((u) => draftKey(u.request, u.activity)));
  const keyOf = (r: Row) => draftKey(work.request, r.code);
  const answered = work.rows.filter((r) => r.cells || unsent.has(keyOf(r))).length;
  return (
    <section aria-label={work.project_name}>
      <Box pt="14">
        <Soft>{work.project_name}</Soft>
        <chakra.h1 fontFamily="heading" fontWeight="600" fontSize="room" lineHeight="1.2">
          {w.to(format.fullDay(work.status))}
        </chakra.h1>
        <Soft as="div">
          {w.progress(answered, work.rows.length)}
          {work.until && `, ${w.until(format.weekDay(work.until), format.clock(work.until))}`}
        </Soft>
      </Box>
      {work.rows.map((row) => {
        const key = keyOf(row);
        return (
          <Card
            key={key}
            row={row}
            page={work}
            draft={kept.drafts[key]}
            unsent={unsent.has(key)}
            refused={kept.refused[key]}
            open={open === key}
            toggle={() => setOpen(open === key ? "" : key)}
            change={(next) => (says(next) ? mine.draft(key, next) : mine.forget(key))}
          />
        );
      })}
    </section>
  );
}

interface CardProps {
  row: Row;
  page: Work;
  draft: Draft | undefined;
  unsent: boolean;
  refused: { why: string; field: string } | undefined;
  open: boolean;
  toggle: () => void;
  change: (next: Draft) => void;
}

function Card({ row, page, draft: typed, unsent, refused, open, toggle, change }: CardProps) {
  // What was answered last stands there to be said anew: an answer is whole.
  const draft = typed ?? { cells: row.cells ?? {}, hours: row.typed_hours ?? {} };
  const begun = row.state !== "not_started";
  const id = `${page.request}.${row.code}`;
  const set = (key: string, text: string) => change({ ...draft, cells: { ...draft.cells, [key]: text } });
  const setHours = (resource: string, key: string, text: string) =>
    change({ ...draft, hours: { ...draft.hours, [resource]: { ...draft.hours[resource], [key]: text } } });
  const last = page.status.slice(0, 10);
  const field = (key: string, label: string, kind: "number" | "date" | "text", more: object = {}) => (
    <label>
      <Soft>{label}</Soft>
      <Input
        {...LARGE}
        type={kind === "date" ? "date" : "text"}
        inputMode={kind === "number" ? "decimal" : undefined}
        value={(draft.cells[key] ?? "").slice(0, kind === "date" ? 10 : undefined)}
        aria-invalid={refused?.field === key || undefined}
        onChange={(e) => set(key, e.target.value)}
        {...more}
      />
    </label>
  );
  const state = unsent
    ? w.onItsWay
    : says(typed)
      ? w.notSent
      : row.taken
        ? w.taken
        : row.cells
          ? w.answered(format.weekDay(row.answered ?? ""))
          : begun
            ? w.stands(format.percent(row.percent), format.tenth(row.days_left))
            : w.due(format.day(row.planned_start));
  return (
    <Box borderTopWidth="1px" borderColor="ruleStrong" mt="10" pt="8" data-row={row.code}>
      <Button
        look="bare"
        width="100%"
        minH="48px"
        textAlign="left"
        whiteSpace="normal"
        aria-expanded={open}
        onClick={toggle}
      >
        <Box fontWeight="600" fontSize="lead" lineHeight="1.25">
          {row.name}
        </Box>
        <Soft>
          {row.code} · {w.planned(format.day(row.planned_finish))}
        </Soft>
        <Box color={unsent || says(typed) ? "wet" : row.cells ? "good" : "soft"} fontWeight={row.cells ? 600 : 400}>
          {row.cells && !says(typed) && "✓ "}
          {state}
        </Box>
      </Button>
      {refused?.why && <Why role="alert">{refused.why}</Why>}
      {open && (
        <Box
          display="grid"
          gridTemplateColumns="repeat(auto-fit, minmax(min(150px, 100%), 1fr))"
          gap="10"
          py="8"
          alignItems="end"
        >
          {field("percent", w.far, "number", { autoFocus: true, "aria-describedby": `${id}.so` })}
          {field("remaining", w.left, "number")}
          {row.units && field("units_done", w.units(row.units), "number")}
          {!begun && field("actual_start", w.started, "date", { max: last })}
          {!begun && field("carry_to", w.willStart, "date", { min: last })}
          {field("actual_finish", w.finished, "date", { max: last })}
          {(row.hours ?? []).flatMap((h) =>
            (["worked", "to_go"] as const).map((k) => (
              <label key={`${h.resource}.${k}`}>
                <Soft>{w.hours(k, (row.hours ?? []).length > 1 ? h.name : "")}</Soft>
                <Input
                  {...LARGE}
                  inputMode="decimal"
                  value={draft.hours[h.resource]?.[k] ?? ""}
                  aria-invalid={refused?.field === k || undefined}
                  onChange={(e) => setHours(h.resource, k, e.target.value)}
                />
              </label>
            )),
          )}
          <label style={{ gridColumn: "1 / -1" }}>
            <Soft>{w.word}</Soft>
            <Textarea
              {...LARGE}
              rows={2}
              value={draft.cells.note ?? ""}
              onChange={(e) => set("note", e.target.value)}
            />
          </label>
          <Soft id={`${id}.so`} gridColumn="1 / -1">
            {begun ? w.stands(format.percent(row.percent), format.tenth(row.days_left)) : w.notBegun}
          </Soft>
        </Box>
      )}
    </Box>
  );
}
