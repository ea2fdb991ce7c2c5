import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { client, type Schemas, take } from "../../api";
import { FormChoice, FormDialog, FormField, keys, templates, useDesk, useForm } from "../../shared";
import { ChoiceLine, FormLine, Input, Soft } from "../../shared/ui";
import { words } from "../../shared/words/desk";

const w = words.desk;
const FIELDS = ["name", "code", "start", "currency"] as const;
const EMPTY = {
  name: "",
  code: "",
  source: "nothing",
  of: "",
  progress: false,
  start: "",
  currency: "EUR",
  kind: "",
  what_if: false,
};

/** Begin a project: from nothing, from a template, or as a copy of another. */
export function NewProject() {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const desk = useDesk();
  const [open, setOpen] = useState(false);
  const begun = useQuery({ ...templates, enabled: open });
  const form = useForm<typeof EMPTY>(EMPTY, async (filled) => {
    const made = await take(client.POST("/api/projects", { body: filled as Schemas["NewForm"] }));
    queries.invalidateQueries({ queryKey: keys.desk.all });
    navigate(`/${encodeURIComponent(made.code)}/now/plan`);
  });
  const source = form.watch("source");
  const field = (key: (typeof FIELDS)[number], label: string, hint = "") => (
    <FormField label={label} placeholder={hint} {...form.entry(key)} />
  );
  return (
    <FormDialog title={w.begin} go={w.create} open={open} setOpen={setOpen} submit={form.submit} wrong={form.wrong}>
      {field("name", w.name)}
      {field("code", w.code, w.codeHint)}
      <FormChoice label={w.from} {...form.register("source", { onChange: () => form.setValue("of", "") })}>
        <option value="nothing">{w.nothing}</option>
        <option value="template">{w.template}</option>
        <option value="copy">{w.copy}</option>
      </FormChoice>
      {source === "template" && (
        <FormLine>
          <span>{w.template}</span>
          <span>
            {(begun.data?.templates ?? []).map((t) => (
              <ChoiceLine key={t.code}>
                <Input type="radio" look="bare" value={t.code} {...form.register("of")} />
                <span>
                  {w.templateOf(t.name, t.activities)}
                  <Soft> {t.description}</Soft>
                </span>
              </ChoiceLine>
            ))}
          </span>
        </FormLine>
      )}
      {source === "copy" && (
        <>
          <FormChoice label={w.copyOf} {...form.entry("of")}>
            <option value="">–</option>
            {(desk.data?.projects ?? []).map((p) => (
              <option key={p.code} value={p.code}>
                {p.name}
              </option>
            ))}
          </FormChoice>
          <ChoiceLine>
            <Input type="checkbox" look="bare" {...form.register("progress")} />
            {w.progress}
          </ChoiceLine>
          <ChoiceLine>
            <Input type="checkbox" look="bare" {...form.register("what_if")} />
            {w.asWhatIf}
          </ChoiceLine>
        </>
      )}
      {(begun.data?.kinds ?? []).length > 0 && (
        <FormChoice label={w.columns.kind ?? ""} {...form.entry("kind")}>
          <option value="">–</option>
          {begun.data?.kinds.map((k) => (
            <option key={k}>{k}</option>
          ))}
        </FormChoice>
      )}
      {field("start", w.start, source === "nothing" ? w.startHint : w.startKeeps)}
      {source === "nothing" && field("currency", w.currency)}
    </FormDialog>
  );
}
