import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { client, Problem, type Schemas, take } from "../../api";
import { format, Notice, settled, usePlace, words } from "../../shared";
import { Button, Input, Table } from "../../shared/ui";
import { Differences } from "./Differences";

type Shelf = Schemas["ShelfOut"];
const w = words.baselines;

/** The shelf: what was approved, which baseline counts, which are drawn, and how they differ. */
export function BaselinesScreen() {
  const { project, page } = usePlace();
  const queries = useQueryClient();
  const [wrong, setWrong] = useState("");
  const shelf = useQuery({
    queryKey: [project, "shelf"],
    queryFn: async () => {
      await settled(project);
      return take(client.GET("/api/projects/{project}/baselines", { params: { path: { project } } }));
    },
  });
  /** What was just chosen, shown at once while it is being kept. */
  const [chosen, setChosen] = useState<{ measured: string | null; drawn: string[] } | null>(null);
  const waiting = useRef<Promise<unknown>>(Promise.resolve());
  if (shelf.isPending) return <Notice>{words.frame.loading}</Notice>;
  if (shelf.isError) return <Notice bad>{shelf.error.message}</Notice>;
  const data = shelf.data;
  const open = data.may_approve && page.state === "wet";
  const refresh = () => {
    queries.invalidateQueries({ queryKey: ["frame", project] });
    return queries.invalidateQueries({ queryKey: [project] });
  };
  const choose = (measured: string | null, drawn: string[]) => {
    const mine = { measured, drawn };
    setChosen(mine);
    const keep = async () => {
      const { revision } = queries.getQueryData<Shelf>([project, "shelf"]) ?? data;
      try {
        await take(
          client.PUT("/api/projects/{project}/baselines", {
            params: { path: { project } },
            body: { revision, measured, drawn },
          }),
        );
        setWrong("");
      } catch (error) {
        if (!(error instanceof Problem)) throw error;
        setWrong(error.message);
      }
      await refresh();
      setChosen((now) => (now === mine ? null : now));
    };
    waiting.current = waiting.current.then(keep, keep);
  };
  const measured = chosen ? chosen.measured : (data.baselines.find((b) => b.measured)?.code ?? null);
  const drawn = chosen ? chosen.drawn : data.baselines.filter((b) => b.drawn).map((b) => b.code);
  return (
    <>
      <div className="sheet-head">
        <h1>{w.title}</h1>
        <span className="told">
          {w.now(format.money(data.budget, true), data.currency, format.fullDay(data.finish))}
        </span>
      </div>
      <div className="scroll-box">
        {data.baselines.length === 0 && <p className="soft-text">{w.none}</p>}
        {data.baselines.length > 0 && (
          <Table className="plain register">
            <thead>
              <tr>
                <th>{w.baseline}</th>
                <th>{w.taken}</th>
                <th>{w.approved}</th>
                <th className="num">{w.budget(data.currency)}</th>
                <th>{w.finish}</th>
                <th>{w.measured}</th>
                <th>{w.drawn}</th>
                <th>{w.back}</th>
              </tr>
            </thead>
            <tbody>
              {data.baselines.map((b) => (
                <tr key={b.code}>
                  <td>
                    <b>
                      {b.code} {b.name}
                    </b>
                    <div className="soft-text">{b.reason}</div>
                    {b.came_from && <div className="soft-text">{w.cameFrom(b.came_from)}</div>}
                  </td>
                  <td>{format.fullDay(b.taken)}</td>
                  <td>{b.approved_by}</td>
                  <td className="num">{format.money(b.budget, true)}</td>
                  <td>{format.fullDay(b.finish)}</td>
                  <td>
                    <Input
                      type="radio"
                      look="bare"
                      name="measured"
                      aria-label={w.measureBy(b.code)}
                      checked={b.code === measured}
                      disabled={!open}
                      onChange={() =>
                        choose(
                          b.code,
                          drawn.filter((d) => d !== b.code),
                        )
                      }
                    />
                  </td>
                  <td>
                    <Input
                      type="checkbox"
                      look="bare"
                      aria-label={w.draw(b.code)}
                      checked={drawn.includes(b.code)}
                      disabled={!open || b.code === measured}
                      onChange={(e) =>
                        choose(measured, e.target.checked ? [...drawn, b.code] : drawn.filter((d) => d !== b.code))
                      }
                    />
                  </td>
                  <td>
                    <Back baseline={b.code} />
                  </td>
                </tr>
              ))}
            </tbody>
          </Table>
        )}
        {wrong && (
          <p role="alert" className="why">
            {wrong}
          </p>
        )}
        {page.state === "wet" && (open ? <Take shelf={data} done={refresh} /> : <p className="soft-text">{w.needs}</p>)}
        {data.baselines.length > 0 && <Differences baselines={data.baselines} />}
      </div>
    </>
  );
}

function Take({ shelf, done }: { shelf: Shelf; done: () => void }) {
  const { project } = usePlace();
  const [form, setForm] = useState({ name: shelf.baselines.length ? "" : w.firstName, reason: "" });
  const [part, setPart] = useState(false);
  const [rows, setRows] = useState<Set<string>>(new Set());
  const [sure, setSure] = useState(false);
  const [wrong, setWrong] = useState<{ field?: string; message: string } | null>(null);
  const plan = useQuery({
    queryKey: [project, "plan-names"],
    queryFn: () => take(client.GET("/api/projects/{project}/plan", { params: { path: { project } } })),
    enabled: part,
  });
  const send = async (event: FormEvent) => {
    event.preventDefault();
    if (!sure) {
      setSure(true);
      return;
    }
    try {
      await take(
        client.POST("/api/projects/{project}/baselines", {
          params: { path: { project } },
          body: { revision: shelf.revision, ...form, rows: part ? [...rows] : null },
        }),
      );
      setForm({ name: "", reason: "" });
      setWrong(null);
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      setWrong({ field: error.field, message: error.message });
    }
    setSure(false);
    done();
  };
  return (
    <form className="take" onSubmit={send}>
      <h2 className="part-title">{w.take}</h2>
      {(["name", "reason"] as const).map((key) => (
        <label key={key} className="form-line">
          <span>{w[key]}</span>
          <span>
            <Input
              value={form[key]}
              aria-invalid={wrong?.field === key || undefined}
              onChange={(e) => setForm({ ...form, [key]: e.target.value })}
            />
            {wrong?.field === key && (
              <span role="alert" className="why">
                {wrong.message}
              </span>
            )}
          </span>
        </label>
      ))}
      {shelf.baselines.length > 0 && (
        <label className="choice-line">
          <Input type="checkbox" look="bare" checked={part} onChange={(e) => setPart(e.target.checked)} />
          {w.part}
        </label>
      )}
      {part && (
        <div className="pick-rows">
          {(plan.data?.rows ?? []).map((r) => (
            <label key={r.id} className="choice-line">
              <Input
                type="checkbox"
                look="bare"
                checked={rows.has(r.id)}
                onChange={(e) => {
                  const next = new Set(rows);
                  if (e.target.checked) next.add(r.id);
                  else next.delete(r.id);
                  setRows(next);
                }}
              />
              {r.code} {r.name}
            </label>
          ))}
        </div>
      )}
      {wrong && !wrong.field && (
        <p role="alert" className="why">
          {wrong.message}
        </p>
      )}
      <div className="row-of">
        <Button type="submit" look="seal">
          {sure ? w.sure : w.takeNow}
        </Button>
        {sure && <span>{w.frozen}</span>}
      </div>
    </form>
  );
}

function Back({ baseline }: { baseline: string }) {
  const { project } = usePlace();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [code, setCode] = useState<string | null>(null);
  const [wrong, setWrong] = useState("");
  if (code === null)
    return (
      <Button look="link" onClick={() => setCode(`${project}-${baseline}`)}>
        {w.bring}
      </Button>
    );
  return (
    <form
      className="row-of"
      onSubmit={async (e) => {
        e.preventDefault();
        try {
          const made = await take(
            client.POST("/api/projects/{project}/baselines/{baseline}/back", {
              params: { path: { project, baseline } },
              body: { code, name: "" },
            }),
          );
          queries.invalidateQueries({ queryKey: ["desk"] });
          navigate(`/${encodeURIComponent(made.code)}/now/plan`);
        } catch (error) {
          if (!(error instanceof Problem)) throw error;
          setWrong(error.message);
        }
      }}
    >
      <Input aria-label={w.newCode} value={code} onChange={(e) => setCode(e.target.value)} />
      <Button type="submit">{w.bringNow}</Button>
      {wrong && (
        <span role="alert" className="why">
          {wrong}
        </span>
      )}
    </form>
  );
}
