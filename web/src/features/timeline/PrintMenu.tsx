import { useState } from "react";
import { client, Problem, type Schemas, take } from "../../api";
import { keepFile, LookAhead, Popup, usePlace } from "../../shared";
import { Button, FormLine, Note, RowOf, Select, Why } from "../../shared/ui";
import { words } from "../../shared/words/timeline";

const w = words.timeline;
type Asked = Schemas["PrintForm"];
const FORMS = ["pdf", "svg", "png"] as const;

/** The view as it stands, as PDF on paper, SVG or PNG. */
export function PrintMenu({ view }: { view: () => Omit<Asked, "form" | "paper" | "fit"> }) {
  const { project, page } = usePlace();
  const [paper, setPaper] = useState<"A4" | "A3">("A4");
  const [fit, setFit] = useState<"page" | "tiled">("page");
  const [busy, setBusy] = useState(false);
  const [wrong, setWrong] = useState("");
  const make = async (form: (typeof FORMS)[number]) => {
    setBusy(true);
    setWrong("");
    try {
      const path = { project, page: page.code };
      const file = await take(
        client.POST("/api/projects/{project}/pages/{page}/timeline/print", {
          params: { path },
          body: { ...view(), form, paper, fit },
          parseAs: "blob",
        }),
      );
      keepFile(file, `${project}-${page.code}-timeline.${form}`);
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      setWrong(error.message);
    } finally {
      setBusy(false);
    }
  };
  return (
    <Popup word={w.print} name={w.print} placement="bottom-end" width="330px">
      <Note as="p">{w.shown(view().rows.length)}</Note>
      <FormLine as="label">
        <span>{w.paper}</span>
        <Select value={paper} onChange={(e) => setPaper(e.target.value === "A3" ? "A3" : "A4")}>
          {Object.entries(w.papers).map(([key, word]) => (
            <option key={key} value={key}>
              {word}
            </option>
          ))}
        </Select>
      </FormLine>
      <FormLine as="label">
        <span>{w.fit}</span>
        <Select value={fit} onChange={(e) => setFit(e.target.value === "tiled" ? "tiled" : "page")}>
          {Object.entries(w.fits).map(([key, word]) => (
            <option key={key} value={key}>
              {word}
            </option>
          ))}
        </Select>
      </FormLine>
      <RowOf>
        {FORMS.map((form) => (
          <Button key={form} disabled={busy} aria-label={w.fileOf(form)} onClick={() => void make(form)}>
            {w.file(form)}
          </Button>
        ))}
        <Note role="status">{busy ? w.printing : ""}</Note>
      </RowOf>
      {wrong && <Why role="alert">{wrong}</Why>}
      <LookAhead />
    </Popup>
  );
}
