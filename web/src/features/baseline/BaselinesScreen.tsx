import { Box, chakra } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { useLocation, useNavigate } from "react-router";
import { client, type Schemas, take } from "../../api";
import { Bones, format, keys, Notice, namesOf, usePlace } from "../../shared";
import { refresh, settled, useWrites } from "../../shared/book";
import { cellKey } from "../../shared/sheet";
import {
  Button,
  ChoiceLine,
  DataTable,
  FormLine,
  Input,
  PartTitle,
  RoomHead,
  RowOf,
  ScrollBox,
  Soft,
  Space,
  Told,
  Why,
} from "../../shared/ui";
import { words } from "../../shared/words/baseline";
import { Asked } from "./Asked";
import { Differences } from "./Differences";
import { Elsewhere } from "./Elsewhere";

const FIELDS = ["name", "reason"] as const;
type Shelf = Schemas["ShelfOut"];
const w = words.baselines;
const idle = async () => undefined;

/** The shelf: what was approved, which baseline counts, which are drawn, and how they differ. */
export function BaselinesScreen() {
  const { project, page } = usePlace();
  const queries = useQueryClient();
  const read = () => take(client.GET("/api/projects/{project}/baselines", { params: { path: { project } } }));
  const shelf = useQuery({
    queryKey: keys.project(project).shelf,
    queryFn: async () => {
      await settled(project);
      return read();
    },
  });
  const again = async () => queries.setQueryData(keys.project(project).shelf, await read());
  const after = async () => {
    await again();
    refresh(queries, project, ({ part }) => part === "shelf");
  };
  const writes = useWrites({ project, part: "shelf", read: again, after });
  /** What was just chosen, shown at once while it is being kept. */
  const [chosen, setChosen] = useState<{ measured: string | null; drawn: string[] } | null>(null);
  if (shelf.isPending) return <Bones />;
  if (!shelf.data) return <Notice bad>{shelf.error?.message}</Notice>;
  const data = shelf.data;
  const open = data.may_approve && page.state === "wet";
  const choose = (measured: string | null, drawn: string[]) => {
    const mine = { measured, drawn };
    setChosen(mine);
    const current = () => JSON.stringify(queries.getQueryData<Shelf>(keys.project(project).shelf)?.baselines);
    const send = (revision: number) => {
      const body = { revision, measured, drawn };
      return take(client.PUT("/api/projects/{project}/baselines", { params: { path: { project } }, body }));
    };
    writes
      .write(send, [{ row: "shelf", field: "choice", text: "", current }])
      .finally(() => setChosen((now) => (now === mine ? null : now)));
  };
  const wrong = writes.troubles[cellKey("shelf", "choice")]?.message;
  const measured = chosen ? chosen.measured : (data.baselines.find((b) => b.measured)?.code ?? null);
  const drawn = chosen ? chosen.drawn : data.baselines.filter((b) => b.drawn).map((b) => b.code);
  return (
    <>
      <RoomHead>
        <h1>{w.title}</h1>
        <Told>{w.now(format.money(data.budget, true), data.currency, format.fullDay(data.finish))}</Told>
        <Space />
        {page.state === "wet" && data.may_ask && <Elsewhere project={project} shelf={data} taken={after} />}
      </RoomHead>
      <ScrollBox>
        <Asked shelf={data} writes={writes} open={page.state === "wet"} />
        {data.baselines.length === 0 && <Soft as="p">{w.none}</Soft>}
        {data.baselines.length > 0 && (
          <DataTable
            rows={data.baselines}
            keyOf={(b) => b.code}
            columns={[
              {
                title: w.baseline,
                cell: (b) => (
                  <>
                    <b>
                      {b.code} {b.name}
                    </b>
                    <Soft as="div">{b.reason}</Soft>
                    {b.came_from && <Soft as="div">{w.cameFrom(b.came_from)}</Soft>}
                  </>
                ),
              },
              { title: w.taken, cell: (b) => format.fullDay(b.taken) },
              { title: w.approved, cell: (b) => b.approved_by },
              { title: w.budget(data.currency), kind: "num", cell: (b) => format.money(b.budget, true) },
              { title: w.finish, cell: (b) => format.fullDay(b.finish) },
              {
                title: w.measured,
                cell: (b) => (
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
                ),
              },
              {
                title: w.drawn,
                cell: (b) => (
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
                ),
              },
              {
                title: w.more,
                cell: (b) => (
                  <>
                    <Back baseline={b.code} />
                    {open && !b.measured && <Away baseline={b.code} writes={writes} />}
                  </>
                ),
              },
            ]}
          />
        )}
        {wrong && (
          <Why role="alert" as="p">
            {wrong}
          </Why>
        )}
        {page.state === "wet" && (data.may_ask ? <Take shelf={data} writes={writes} /> : <Soft as="p">{w.needs}</Soft>)}
        {data.baselines.length > 0 && <Differences baselines={data.baselines} />}
      </ScrollBox>
    </>
  );
}

interface TakeProps {
  shelf: Shelf;
  writes: ReturnType<typeof useWrites>;
}

function Take({ shelf, writes }: TakeProps) {
  const { project } = usePlace();
  // Whoever comes from an adopted option brings its reason along.
  const brought = (useLocation().state as { reason?: string } | null)?.reason ?? "";
  const [form, setForm] = useState({ name: shelf.baselines.length ? "" : w.firstName, reason: brought });
  const [part, setPart] = useState(false);
  const [rows, setRows] = useState<Set<string>>(new Set());
  const [built, setBuilt] = useState<string[]>([]);
  const [sure, setSure] = useState(false);
  const plan = useQuery({ ...namesOf(project), enabled: part });
  const [lacks, setLacks] = useState<string[]>([]);
  const why = (field: (typeof FIELDS)[number]) =>
    lacks.includes(field) && !form[field].trim() ? w.lacks[field] : writes.troubles[cellKey("take", field)]?.message;
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (!sure) {
      // Before it is asked whether one is sure, not after.
      const empty = FIELDS.filter((field) => !form[field].trim());
      setLacks(empty);
      setSure(empty.length === 0 && shelf.may_approve);
      if (empty.length || shelf.may_approve) return;
    }
    const send = async (revision: number): Promise<unknown> => {
      const changes = built.filter((code) => shelf.to_build.includes(code));
      const body = { ...form, rows: part ? [...rows] : null, changes };
      const params = { path: { project } };
      // Taking is the approver's press, asking the analyst's.
      return shelf.may_approve
        ? take(client.POST("/api/projects/{project}/baselines", { params, body: { revision, ...body } }))
        : take(client.POST("/api/projects/{project}/baselines/asked", { params, body }));
    };
    const cells = FIELDS.map((field) => ({ row: "take", field, text: form[field] }));
    if (await writes.write(send, cells)) setForm({ name: "", reason: "" });
    setSure(false);
  };
  return (
    <chakra.form maxW="560px" onSubmit={submit}>
      <PartTitle>{shelf.may_approve ? w.take : w.askFor}</PartTitle>
      {FIELDS.map((key) => (
        <FormLine key={key} as="label">
          <span>{w[key]}</span>
          <span>
            <Input
              value={form[key]}
              aria-invalid={why(key) !== undefined || undefined}
              onChange={(e) => {
                setForm({ ...form, [key]: e.target.value });
                setSure(false);
              }}
            />
            {why(key) && (
              <Why role="alert" as="span">
                {why(key)}
              </Why>
            )}
          </span>
        </FormLine>
      ))}
      {shelf.baselines.length > 0 && (
        <ChoiceLine>
          <Input type="checkbox" look="bare" checked={part} onChange={(e) => setPart(e.target.checked)} />
          {w.part}
        </ChoiceLine>
      )}
      {part && (
        <Box maxH="220px" overflow="auto" borderWidth="1px" borderColor="rule" py="4" px="8">
          {(plan.data?.rows ?? []).map((r) => (
            <ChoiceLine key={r.id}>
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
            </ChoiceLine>
          ))}
        </Box>
      )}
      {shelf.to_build.map((code) => (
        <ChoiceLine key={code}>
          <Input
            type="checkbox"
            look="bare"
            checked={built.includes(code)}
            onChange={(e) => setBuilt(e.target.checked ? [...built, code] : built.filter((c) => c !== code))}
          />
          {w.buildsIn(code)}
        </ChoiceLine>
      ))}
      <RowOf>
        <Button type="submit" look="seal">
          {sure ? w.sure : shelf.may_approve ? w.takeNow : w.askNow}
        </Button>
        {sure && <span>{w.frozen}</span>}
      </RowOf>
    </chakra.form>
  );
}

/** Takes a baseline away with a reason; what refers to it is told. */
function Away({ baseline, writes }: { baseline: string; writes: ReturnType<typeof useWrites> }) {
  const { project } = usePlace();
  const [reason, setReason] = useState<string | null>(null);
  const at = `away.${baseline}`;
  const why = writes.troubles[cellKey(at, "reason")]?.message;
  if (reason === null)
    return (
      <div>
        <Button look="link" onClick={() => setReason("")}>
          {w.away}
        </Button>
      </div>
    );
  const go = (revision: number) =>
    take(
      client.POST("/api/projects/{project}/baselines/{baseline}/away", {
        params: { path: { project, baseline } },
        body: { revision, reason },
      }),
    );
  return (
    <RowOf
      as="form"
      onSubmit={(e) => {
        e.preventDefault();
        writes.write(go, [{ row: at, field: "reason", text: reason }]);
      }}
    >
      <Input
        aria-label={w.awayWhy(baseline)}
        placeholder={w.awayWhy(baseline)}
        value={reason}
        onChange={(e) => setReason(e.target.value)}
      />
      <Button type="submit">{w.awayNow}</Button>
      {why && (
        <Why role="alert" as="span">
          {why}
        </Why>
      )}
    </RowOf>
  );
}

function Back({ baseline }: { baseline: string }) {
  const { project } = usePlace();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [code, setCode] = useState<string | null>(null);
  const writes = useWrites({ project, part: `restore.${baseline}`, read: idle });
  if (code === null)
    return (
      <Button look="link" onClick={() => setCode(`${project}-${baseline}`)}>
        {w.bring}
      </Button>
    );
  return (
    <RowOf
      as="form"
      onSubmit={async (e) => {
        e.preventDefault();
        const params = { path: { project, baseline } };
        const made = await writes.write(() =>
          take(client.POST("/api/projects/{project}/baselines/{baseline}/back", { params, body: { code, name: "" } })),
        );
        if (!made) return;
        queries.invalidateQueries({ queryKey: keys.desk.all });
        navigate(`/${encodeURIComponent(made.code)}/now/plan`);
      }}
    >
      <Input aria-label={w.newCode} value={code} onChange={(e) => setCode(e.target.value)} />
      <Button type="submit">{w.bringNow}</Button>
      {writes.refused && (
        <Why role="alert" as="span">
          {writes.refused}
        </Why>
      )}
    </RowOf>
  );
}
