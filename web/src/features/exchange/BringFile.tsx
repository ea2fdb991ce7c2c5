import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { useNavigate } from "react-router";
import { Problem, type Schemas, sendFile } from "../../api";
import { Act, Button, DataTable, Input, RowOf, Soft, Why } from "../../shared/ui";
import { words } from "../../shared/words/exchange";

type Preview = Schemas["PreviewOut"];
const w = words.exchange;
const MOST = 300;

/** Choose a file, see row by row what it would do, then bring it in. Without a project it makes a new one. */
export function BringFile({ project }: { project?: string }) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const input = useRef<HTMLInputElement>(null);
  const [file, setFile] = useState<File | null>(null);
  const [code, setCode] = useState("");
  const [preview, setPreview] = useState<Preview | null>(null);
  const [wrong, setWrong] = useState("");
  const [busy, setBusy] = useState(false);
  const asked = useRef(0);
  const send = async (chosen: File, apply: boolean, as = code) => {
    setBusy(true);
    setWrong("");
    // What is told of a file that is no longer the chosen one counts no more.
    const mine = ++asked.current;
    try {
      const got = await sendFile<Preview>(
        project ? `projects/${encodeURIComponent(project)}/import` : "import",
        chosen,
        {
          apply: String(apply),
          code: as,
        },
      );
      if (mine !== asked.current) return;
      setPreview(got);
      if (got.done) {
        queries.invalidateQueries();
        if (!project) navigate(`/${encodeURIComponent(got.done)}/now/plan`);
      }
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      if (mine === asked.current) setWrong(error.message);
    }
    if (mine === asked.current) setBusy(false);
  };
  return (
    <div>
      <RowOf>
        <Input
          ref={input}
          type="file"
          look="bare"
          accept=".json,.xlsx,.csv,.zip"
          aria-label={w.choose}
          onChange={(e) => {
            const chosen = e.target.files?.[0] ?? null;
            setFile(chosen);
            setPreview(null);
            if (chosen) send(chosen, false);
          }}
        />
        {!project && file && (
          <Input
            aria-label={w.as}
            placeholder={w.as}
            value={code}
            onChange={(e) => setCode(e.target.value)}
            onBlur={() => file && send(file, false)}
          />
        )}
        {preview && !preview.done && (
          <Button look="seal" disabled={!preview.ready || busy} onClick={() => file && send(file, true)}>
            {w.apply}
          </Button>
        )}
        {file && (
          <Button
            onClick={() => {
              asked.current++;
              setBusy(false);
              setWrong("");
              setFile(null);
              setPreview(null);
              if (input.current) input.current.value = "";
            }}
          >
            {w.leave}
          </Button>
        )}
      </RowOf>
      {busy && <p role="status">{w.reading}</p>}
      {wrong && (
        <Why role="alert" as="p">
          {wrong}
        </Why>
      )}
      {preview && <Shown preview={preview} />}
    </div>
  );
}

function Shown({ preview }: { preview: Preview }) {
  const { counts } = preview;
  return (
    <>
      <p role="status">
        <b>{preview.done ? w.done(preview.name) : preview.ready ? w.ready : w.notReady}</b>{" "}
        {w.counts(counts.add ?? 0, counts.change ?? 0, counts.leave ?? 0, counts.refuse ?? 0)}
      </p>
      {(preview.notes ?? []).map((note) => (
        <Soft as="p" key={note}>
          {note}
        </Soft>
      ))}
      {preview.faults.slice(0, MOST).map((f) => (
        <Why key={f.message} role="alert" as="p">
          {f.column ? `${f.column}: ` : ""}
          {f.message}
        </Why>
      ))}
      {preview.unknown.length > 0 && <Soft as="p">{w.unknown(preview.unknown.join(", "))}</Soft>}
      {preview.tables.map((t) => (
        <DataTable
          key={t.title}
          caption={t.title}
          rows={[...t.rows].sort((a, b) => Number(b.what === "refuse") - Number(a.what === "refuse")).slice(0, MOST)}
          keyOf={(r) => r.row ?? ""}
          line={(r) => ({ "data-refused": r.what === "refuse" ? "" : undefined })}
          columns={[
            { title: w.row, kind: "num", cell: (r) => r.row },
            { title: w.what, cell: (r) => w.whats[r.what] ?? r.what },
            { title: w.name, cell: (r) => r.name },
            {
              title: w.detail,
              cell: (r) => (
                <>
                  {(r.reasons ?? []).map((x) => (
                    <Act key={`${x.column}${x.message}`} as="div">
                      {x.column ? `${x.column}: ` : ""}
                      {x.message}
                    </Act>
                  ))}
                  {(r.changes ?? []).map((x) => `${x.column}: ${x.was || "–"} → ${x.now}`).join("; ")}
                </>
              ),
            },
          ]}
        />
      ))}
    </>
  );
}
