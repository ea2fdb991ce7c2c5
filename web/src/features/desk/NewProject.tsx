import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { client, type Schemas, take } from "../../api";
import { FormChoice, FormDialog, FormField, keys, templates, useDesk, type Wrong, wrongOf } from "../../shared";
import { ChoiceLine, FormLine, Input, Soft } from "../../shared/ui";
import { words } from "../../shared/words/desk";

const w = words.desk;
const FIELDS = ["name", "code", "start", "currency"] as const;
const EMPTY = { name: "", code: "", source: "nothing", of: "", progress: false, start: "", currency: "EUR", kind: "" };

/** Begin a project: from nothing, from a template, or as a copy of another. */
export function NewProject() {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const desk = useDesk();
  const [open, setOpen] = useState(false);
  const [form, setForm] = useState(EMPTY);
  const [wrong, setWrong] = useState<Wrong | null>(null);
  const begun = useQuery({ ...templates, enabled: open });
  const set = (change: Partial<typeof EMPTY>) => setForm((now) => ({ ...now, ...change }));
  const create = async () => {
    try {
      const made = await take(client.POST("/api/projects", { body: form as Schemas["NewForm"] }));
      queries.invalidateQueries({ queryKey: keys.desk.all });
      navigate(`/${encodeURIComponent(made.code)}/now/plan`);
    } catch (no) {
      setWrong(wrongOf(no));
    }
  };
  const field = (key: (typeof FIELDS)[number], label: string, hint = "") => (
    <FormField
      label={label}
      value={form[key]}
      placeholder={hint}
      why={wrong?.field === key ? wrong.message : undefined}
      onChange={(e) => set({ [key]: e.target.value })}
    />
  );
  const elsewhere = wrong && !FIELDS.some((key) => key === wrong.field) ? wrong.message : undefined;
  return (
    <FormDialog title={w.begin} go={w.create} open={open} setOpen={setOpen} submit={create} wrong={elsewhere}>
      {field("name", w.name)}
      {field("code", w.code, w.codeHint)}
      <FormChoice label={w.from} value={form.source} onChange={(e) => set({ source: e.target.value, of: "" })}>
        <option value="nothing">{w.nothing}</option>
        <option value="template">{w.template}</option>
        <option value="copy">{w.copy}</option>
      </FormChoice>
      {form.source === "template" && (
        <FormLine>
          <span>{w.template}</span>
          <span>
            {(begun.data?.templates ?? []).map((t) => (
              <ChoiceLine key={t.code}>
                <Input
                  type="radio"
                  look="bare"
                  name="of"
                  checked={form.of === t.code}
                  onChange={() => set({ of: t.code })}
                />
                <span>
                  {w.templateOf(t.name, t.activities)}
                  <Soft> {t.description}</Soft>
                </span>
              </ChoiceLine>
            ))}
          </span>
        </FormLine>
      )}
      {form.source === "copy" && (
        <>
          <FormChoice label={w.copyOf} value={form.of} onChange={(e) => set({ of: e.target.value })}>
            <option value="">–</option>
            {(desk.data?.projects ?? []).map((p) => (
              <option key={p.code} value={p.code}>
                {p.name}
              </option>
            ))}
          </FormChoice>
          <ChoiceLine>
            <Input
              type="checkbox"
              look="bare"
              checked={form.progress}
              onChange={(e) => set({ progress: e.target.checked })}
            />
            {w.progress}
          </ChoiceLine>
        </>
      )}
      {(begun.data?.kinds ?? []).length > 0 && (
        <FormChoice label={w.columns.kind ?? ""} value={form.kind} onChange={(e) => set({ kind: e.target.value })}>
          <option value="">–</option>
          {begun.data?.kinds.map((k) => (
            <option key={k}>{k}</option>
          ))}
        </FormChoice>
      )}
      {field("start", w.start, form.source === "nothing" ? w.startHint : w.startKeeps)}
      {form.source === "nothing" && field("currency", w.currency)}
    </FormDialog>
  );
}
