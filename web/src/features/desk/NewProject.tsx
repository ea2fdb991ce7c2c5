import { Dialog, Portal } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { useNavigate } from "react-router";
import { client, Problem, type Schemas, take } from "../../api";
import { useDesk } from "../../shared";
import { Button, ChoiceLine, FormLine, Input, RowOf, Select, Soft, Why } from "../../shared/ui";
import { words } from "../../shared/words/desk";

const w = words.desk;
const EMPTY = { name: "", code: "", source: "nothing", of: "", progress: false, start: "", currency: "EUR" };

/** Begin a project: from nothing, from a template, or as a copy of another. */
export function NewProject() {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const desk = useDesk();
  const [open, setOpen] = useState(false);
  const [form, setForm] = useState(EMPTY);
  const [wrong, setWrong] = useState<{ field?: string; message: string } | null>(null);
  const templates = useQuery({
    queryKey: ["templates"],
    queryFn: () => take(client.GET("/api/templates")),
    enabled: open,
  });
  const set = (change: Partial<typeof EMPTY>) => setForm((now) => ({ ...now, ...change }));
  const create = async (event: FormEvent) => {
    event.preventDefault();
    try {
      const made = await take(client.POST("/api/projects", { body: form as Schemas["NewForm"] }));
      queries.invalidateQueries({ queryKey: ["desk"] });
      navigate(`/${encodeURIComponent(made.code)}/now/plan`);
    } catch (error) {
      if (error instanceof Problem) setWrong({ field: error.field, message: error.message });
      else throw error;
    }
  };
  const field = (key: "name" | "code" | "start" | "currency", label: string, hint = "") => (
    <FormLine as="label">
      <span>{label}</span>
      <span>
        <Input
          value={form[key]}
          placeholder={hint}
          aria-invalid={wrong?.field === key || undefined}
          onChange={(e) => set({ [key]: e.target.value })}
        />
        {wrong?.field === key && (
          <Why role="alert" as="span">
            {wrong.message}
          </Why>
        )}
      </span>
    </FormLine>
  );
  return (
    <Dialog.Root open={open} onOpenChange={(e) => setOpen(e.open)}>
      <Dialog.Trigger asChild>
        <Button look="seal">{w.begin}</Button>
      </Dialog.Trigger>
      <Portal>
        <Dialog.Backdrop />
        <Dialog.Positioner>
          <Dialog.Content maxW="520px">
            <Dialog.Header>
              <Dialog.Title fontFamily="heading">{w.begin}</Dialog.Title>
            </Dialog.Header>
            <Dialog.Body>
              <form onSubmit={create}>
                {field("name", w.name)}
                {field("code", w.code, w.codeHint)}
                <FormLine as="label">
                  <span>{w.from}</span>
                  <Select value={form.source} onChange={(e) => set({ source: e.target.value, of: "" })}>
                    <option value="nothing">{w.nothing}</option>
                    <option value="template">{w.template}</option>
                    <option value="copy">{w.copy}</option>
                  </Select>
                </FormLine>
                {form.source === "template" && (
                  <FormLine>
                    <span>{w.template}</span>
                    <span>
                      {(templates.data?.templates ?? []).map((t) => (
                        <ChoiceLine key={t.code}>
                          <Input
                            type="radio"
                            look="bare"
                            name="of"
                            checked={form.of === t.code}
                            onChange={() => set({ of: t.code })}
                          />
                          <span>
                            {t.name}, {t.activities} activities
                            <Soft> {t.description}</Soft>
                          </span>
                        </ChoiceLine>
                      ))}
                    </span>
                  </FormLine>
                )}
                {form.source === "copy" && (
                  <>
                    <FormLine as="label">
                      <span>{w.copyOf}</span>
                      <Select value={form.of} onChange={(e) => set({ of: e.target.value })}>
                        <option value="">–</option>
                        {(desk.data?.projects ?? []).map((p) => (
                          <option key={p.code} value={p.code}>
                            {p.name}
                          </option>
                        ))}
                      </Select>
                    </FormLine>
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
                {field("start", w.start, form.source === "nothing" ? w.startHint : w.startKeeps)}
                {form.source === "nothing" && field("currency", w.currency)}
                {wrong && !["name", "code", "start", "currency"].includes(wrong.field ?? "") && (
                  <Why role="alert" as="p">
                    {wrong.message}
                  </Why>
                )}
                <RowOf>
                  <Button type="submit" look="seal">
                    {w.create}
                  </Button>
                  <Dialog.CloseTrigger asChild position="static">
                    <Button>{words.frame.shut}</Button>
                  </Dialog.CloseTrigger>
                </RowOf>
              </form>
            </Dialog.Body>
          </Dialog.Content>
        </Dialog.Positioner>
      </Portal>
    </Dialog.Root>
  );
}
