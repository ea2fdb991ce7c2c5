import { Box, Flex } from "@chakra-ui/react";
import { type DragEvent, type KeyboardEvent, useState } from "react";
import { ActionMenu, Bones, format, Mark, Notice, usePlace } from "../../shared";
import {
  Button,
  type DataColumn,
  DataTable,
  PartTitle,
  RoomHead,
  RowOf,
  ScrollBox,
  Soft,
  Space,
  Told,
  Why,
} from "../../shared/ui";
import { words } from "../../shared/words/marks";
import { RuleEditor } from "./RuleEditor";
import { figuresOf, freshCode, moved, type Rule, reasonShown, ruleSentence, SCOPES, type Scope } from "./rules";
import { Sets } from "./Sets";
import { useMarks } from "./useMarks";

const w = words.rules;
/** The same in all three groups, so that their columns line up. */
const NARROW = "58px";

/** The rules that give marks: read as sentences, built from parts, tried while they are changed, saved as one step. */
export function MarksScreen() {
  const { page, person } = usePlace();
  const marks = useMarks();
  const [open, setOpen] = useState("");
  const { data } = marks.marks;
  if (marks.marks.isPending) return <Bones />;
  if (!data) return <Notice bad>{marks.marks.error?.message}</Notice>;
  const may = page.state === "wet" && person.role !== "reader";
  const { rules, draft, setDraft } = marks;
  const put = (list: Rule[]) => setDraft(list);
  const add = (scope: Scope) => {
    const code = freshCode(rules);
    const at = rules.findLastIndex((r) => r.scope === scope) + 1;
    const rule: Rule = { code, scope, match: "all", mark: "watch", reason: "", conditions: [] };
    put([...rules.slice(0, at), rule, ...rules.slice(at)]);
    setOpen(code);
  };
  return (
    <>
      <RoomHead>
        <h1>{w.title}</h1>
        <Told>{w.to(data.own || draft ? w.own(rules.length) : w.shipped, format.fullDay(data.status))}</Told>
        <Space />
        {may && draft && (
          <>
            <Button onClick={() => setDraft(null)}>{w.discard}</Button>
            <Button look="seal" disabled={marks.wrong !== null} onClick={() => void marks.save(draft)}>
              {w.save}
            </Button>
          </>
        )}
        {may && !draft && data.own && <Button onClick={() => void marks.save([])}>{w.useShipped}</Button>}
      </RoomHead>
      {marks.refused && <Notice bad>{marks.refused}</Notice>}
      {page.state === "dry" && (
        <Soft pt="0" px="14" pb="6">
          {w.readOnly}
        </Soft>
      )}
      <Flex flex="1" minH="0">
        <ScrollBox flex="1" tabIndex={0} role="region" aria-label={w.label}>
          {SCOPES.map((scope) => (
            <section key={scope} aria-label={w.scopes[scope]}>
              <Rules scope={scope} marks={marks} may={may} open={open} setOpen={setOpen} put={put} />
              <RowOf pt="4" px="0" pb="10">
                <Soft>{w.uncaught((marks.tried?.uncaught ?? data.uncaught)[scope] ?? 0)}</Soft>
                {may && (
                  <Button aria-label={w.addOf(w.scopes[scope] ?? "")} onClick={() => add(scope)}>
                    {w.add}
                  </Button>
                )}
              </RowOf>
            </section>
          ))}
          {may && <Soft as="p">{w.keys}</Soft>}
          <Sets marks={marks} may={may} />
        </ScrollBox>
        {draft && <Changes tried={marks.tried} />}
      </Flex>
    </>
  );
}

interface RulesProps {
  scope: Scope;
  marks: ReturnType<typeof useMarks>;
  may: boolean;
  open: string;
  setOpen: (code: string) => void;
  put: (rules: Rule[]) => void;
}

/** The rules of a scope in their order, with what each catches now and on the pages before. */
function Rules({ scope, marks, may, open, setOpen, put }: RulesProps) {
  const [dragged, drag] = useState("");
  const { rules, wrong, tried } = marks;
  const data = marks.marks.data;
  const figures = figuresOf(marks.figures, data?.fields ?? [], scope);
  const own = rules.filter((r) => r.scope === scope);
  const keys = (event: KeyboardEvent, code: string) => {
    if (!may || !event.altKey || !["ArrowUp", "ArrowDown"].includes(event.key)) return;
    event.preventDefault();
    event.stopPropagation();
    put(moved(rules, code, event.key === "ArrowUp" ? -1 : 1));
  };
  const drop = (event: DragEvent, code: string) => {
    event.preventDefault();
    const taken = rules.find((r) => r.code === dragged);
    if (!taken || taken.scope !== scope || dragged === code) return;
    const rest = rules.filter((r) => r.code !== dragged);
    const at = rest.findIndex((r) => r.code === code);
    put([...rest.slice(0, at), taken, ...rest.slice(at)]);
  };
  const knownOf = (rule: Rule) => data?.rules.find((r) => r.code === rule.code);
  const openOrShut = (rule: Rule) => setOpen(open === rule.code ? "" : rule.code);
  return (
    <DataTable
      width="100%"
      tableLayout="fixed"
      rows={own}
      keyOf={(rule) => rule.code}
      hold={(rule) => ({
        onKeyDownCapture: (e) => keys(e, rule.code),
        draggable: may && open !== rule.code,
        onDragStart: () => drag(rule.code),
        onDragOver: (e) => e.preventDefault(),
        onDrop: (e) => drop(e, rule.code),
      })}
      below={(rule) =>
        may &&
        open === rule.code && (
          <RuleEditor
            rule={rule}
            figures={figures}
            change={(next) => put(rules.map((r) => (r.code === rule.code ? next : r)))}
          />
        )
      }
      columns={[
        { label: w.order, width: "26px", cell: (rule) => <Mark mark={rule.mark} /> },
        {
          title: w.scopes[scope],
          cell: (rule) => (
            <>
              {ruleSentence(rule, figures)}
              {rule.reason && <Soft ml="8">“{reasonShown(rule.reason)}”</Soft>}
              {wrong && rules[wrong.at] === rule && <Why role="alert">{wrong.message}</Why>}
            </>
          ),
        },
        {
          title: w.now,
          kind: "num",
          width: NARROW,
          cell: (rule) => (tried ? tried.catches[rule.code] : knownOf(rule)?.catches) ?? "–",
        },
        ...(data?.before ?? []).map(
          (page, i): DataColumn<Rule> => ({
            title: page,
            kind: "num",
            width: NARROW,
            cell: (rule) => knownOf(rule) && (knownOf(rule)?.before[i] ?? "–"),
          }),
        ),
        may && {
          width: "96px",
          more: () => ({ style: { whiteSpace: "nowrap" } }),
          cell: (rule, at) => {
            const sentence = ruleSentence(rule, figures);
            return (
              <>
                <Button
                  look="link"
                  lineHeight="inherit"
                  verticalAlign="baseline"
                  aria-label={w.editOf(sentence)}
                  onClick={() => openOrShut(rule)}
                >
                  {open === rule.code ? w.done : w.edit}
                </Button>{" "}
                <ActionMenu
                  label={w.more_of(sentence)}
                  items={[
                    { word: w.up, act: () => put(moved(rules, rule.code, -1)), disabled: at === 0 },
                    { word: w.down, act: () => put(moved(rules, rule.code, 1)), disabled: at === own.length - 1 },
                    { word: w.remove, act: () => put(rules.filter((r) => r.code !== rule.code)) },
                  ]}
                />
              </>
            );
          },
        },
      ]}
    />
  );
}

/** The rows whose mark would be another. */
function Changes({ tried }: { tried: ReturnType<typeof useMarks>["tried"] }) {
  return (
    <Box
      as="section"
      aria-label={w.changes}
      width="330px"
      flex="none"
      overflow="auto"
      borderLeftWidth="1px"
      borderColor="rule"
      py="0"
      px="10"
      tabIndex={0}
    >
      <PartTitle>{w.changes}</PartTitle>
      {tried && (
        <>
          <Soft as="p" role="status">
            {tried.count ? w.count(tried.count) : w.none}
          </Soft>
          <DataTable
            width="100%"
            rows={tried.changes}
            keyOf={(c) => `${c.scope}.${c.code}`}
            line={(c) => ({ "data-tip": c.reason })}
            columns={[
              { cell: (c) => (c.scope === "project" ? c.name : `${c.code} ${c.name}`) },
              {
                more: () => ({ style: { whiteSpace: "nowrap" } }),
                cell: (c) => (
                  <>
                    <Mark mark={c.was} /> → <Mark mark={c.becomes} />
                  </>
                ),
              },
            ]}
          />
          {tried.count > tried.changes.length && <Soft>{w.more(tried.count - tried.changes.length)}</Soft>}
        </>
      )}
    </Box>
  );
}
