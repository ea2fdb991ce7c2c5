import { Box, Flex } from "@chakra-ui/react";
import { type DragEvent, type KeyboardEvent, useState } from "react";
import { ActionMenu, Bones, format, Mark, Notice, usePlace } from "../../shared";
import { Button, PartTitle, RoomHead, RowOf, ScrollBox, Soft, Space, Table, Told, Why } from "../../shared/ui";
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
  return (
    <Table kind="read" width="100%" tableLayout="fixed">
      <thead>
        <tr>
          <th style={{ width: "26px" }} aria-label={w.order} />
          <th>{w.scopes[scope]}</th>
          <th data-num="" style={{ width: NARROW }}>
            {w.now}
          </th>
          {data?.before.map((p) => (
            <th key={p} data-num="" style={{ width: NARROW }}>
              {p}
            </th>
          ))}
          {may && <td style={{ width: "96px" }} />}
        </tr>
      </thead>
      {own.map((rule, at) => {
        const known = data?.rules.find((r) => r.code === rule.code);
        const sentence = ruleSentence(rule, figures);
        const refused = wrong && rules[wrong.at] === rule ? wrong.message : "";
        return (
          <tbody
            key={rule.code}
            onKeyDownCapture={(e) => keys(e, rule.code)}
            draggable={may && open !== rule.code}
            onDragStart={() => drag(rule.code)}
            onDragOver={(e) => e.preventDefault()}
            onDrop={(e) => drop(e, rule.code)}
          >
            <tr>
              <td>
                <Mark mark={rule.mark} />
              </td>
              <td>
                {sentence}
                {rule.reason && <Soft ml="8">“{reasonShown(rule.reason)}”</Soft>}
                {refused && <Why role="alert">{refused}</Why>}
              </td>
              <td data-num="">{tried ? (tried.catches[rule.code] ?? "–") : (known?.catches ?? "–")}</td>
              {known?.before.map((n, i) => (
                <td key={data?.before[i]} data-num="">
                  {n ?? "–"}
                </td>
              )) ?? data?.before.map((p) => <td key={p} />)}
              {may && (
                <td style={{ whiteSpace: "nowrap" }}>
                  <Button
                    look="link"
                    lineHeight="inherit"
                    verticalAlign="baseline"
                    aria-label={w.editOf(sentence)}
                    onClick={() => setOpen(open === rule.code ? "" : rule.code)}
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
                </td>
              )}
            </tr>
            {may && open === rule.code && (
              <tr>
                <td colSpan={4 + (data?.before.length ?? 0)}>
                  <RuleEditor
                    rule={rule}
                    figures={figures}
                    change={(next) => put(rules.map((r) => (r.code === rule.code ? next : r)))}
                  />
                </td>
              </tr>
            )}
          </tbody>
        );
      })}
    </Table>
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
          <Table kind="read" width="100%">
            <tbody>
              {tried.changes.map((c) => (
                <tr key={`${c.scope}.${c.code}`} data-tip={c.reason}>
                  <td>{c.scope === "project" ? c.name : `${c.code} ${c.name}`}</td>
                  <td style={{ whiteSpace: "nowrap" }}>
                    <Mark mark={c.was} /> → <Mark mark={c.becomes} />
                  </td>
                </tr>
              ))}
            </tbody>
          </Table>
          {tried.count > tried.changes.length && <Soft>{w.more(tried.count - tried.changes.length)}</Soft>}
        </>
      )}
    </Box>
  );
}
