import { Text } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Fragment, type ReactNode } from "react";
import { client, type Schemas, take } from "../../api";
import { Bones, format, keys, Notice, SUMMARY, summaryText, usePlace } from "../../shared";
import { refresh, useWrites } from "../../shared/book";
import {
  Button,
  type DataColumn,
  DataTable,
  Files,
  Note,
  RoomHead,
  ScrollBox,
  Select,
  Soft,
  Space,
  Told,
  Why,
} from "../../shared/ui";
import { words } from "../../shared/words/value";

const w = words.value;
/** What belongs together: the rows of each part, and the figures beside them. */
const PARTS = [
  { key: "money", rows: ["cost"], beside: ["ev", "spi", "cpi"] },
  { key: "work", rows: ["work"], beside: [] },
  { key: "time", rows: ["start", "finish", "duration"], beside: ["spi_t", "total_float"] },
];

/** A row of a part, and the figures beside the part. */
interface Part {
  row: Schemas["StatisticOut"];
  beside: string[];
}

interface Props {
  wbs: string;
  look: (next: { wbs: string }) => void;
  children: ReactNode;
}

/** The figures beside the rows of a part, each with its name. */
function FiguresBeside({ figures, of }: { figures: Record<string, string | null>; of: string[] }) {
  const known = of.filter((key) => figures[key] !== undefined);
  return known.map((key) => {
    const value = figures[key] ?? null;
    const text =
      key === "total_float"
        ? value && words.format.in(format.money(value), "d")
        : format.figure(value, key === "ev" ? "money" : "ratio");
    return (
      <div key={key}>
        <Soft>{w.besides[key]}</Soft> {text ?? "–"}
      </div>
    );
  });
}

/** Every estimate at completion side by side, with what it assumes; the one that the project uses is told. */
function Estimates({ scope, used }: { scope: Schemas["ScopeStatistics"]; used: string }) {
  const { project, page, person } = usePlace();
  const queries = useQueryClient();
  const { figures, reasons } = scope;
  const tcpi = figures.tcpi_bac;
  const after = async () => refresh(queries, project);
  const writes = useWrites({ project, part: "estimate", read: after, after });
  const choose = (eac: string) =>
    writes.write((revision) =>
      take(
        client.POST("/api/projects/{project}/plan/changes", {
          params: { path: { project } },
          body: { revision, preview: false, rest: false, verbs: [{ do: "project", cells: { eac } }] },
        }),
      ),
    );
  const open = person.role !== "reader" && page.state === "wet";
  const use = (key: string) => {
    if (key === used) return w.usedHere;
    if (!open) return "";
    const name = words.frame.methods[key] ?? key;
    return (
      <Button look="link" aria-label={w.takeEstimate(name)} onClick={() => choose(key)}>
        {w.use}
      </Button>
    );
  };
  return (
    <>
      <DataTable
        width="auto"
        caption={w.estimatesOf}
        rows={Object.keys(figures).filter((key) => key.startsWith("eac."))}
        keyOf={(key) => key}
        columns={[
          { title: w.estimateHeads.estimate, head: true, cell: (key) => words.frame.methods[key.slice(4)] },
          { title: w.estimateHeads.assumes, cell: (key) => w.assumes[key.slice(4)] },
          {
            title: w.estimateHeads.eac,
            kind: "num",
            tip: (key) => reasons[key],
            cell: (key) => format.money(figures[key]),
          },
          { title: w.estimateHeads.used, cell: (key) => use(key.slice(4)) },
        ]}
      />
      <Soft as="p">{tcpi == null ? w.noTcpi(reasons.tcpi_bac ?? "") : w.tcpi(format.figure(tcpi, "ratio") ?? "")}</Soft>
      {writes.refused && <Why role="alert">{writes.refused}</Why>}
    </>
  );
}

/** The project or a branch as a statement of account: money, work and time in the baseline, to date, to go, forecast, and how they differ. */
export function Summary({ wbs, look, children }: Props) {
  const { project, page } = usePlace();
  const path = { project, page: page.code };
  const statistics = useQuery({
    queryKey: keys.page(project, page.code).statistics,
    queryFn: () => take(client.GET("/api/projects/{project}/pages/{page}/statistics", { params: { path } })),
  });
  if (statistics.isPending) return <Bones />;
  if (!statistics.data) return <Notice bad>{statistics.error?.message}</Notice>;
  const { scopes, status, baseline, currency, first, eac_method } = statistics.data;
  const scope = scopes.find((s) => (wbs ? s.kind === "wbs" && s.code === wbs : s.kind === "project"));
  const base = `/api/projects/${encodeURIComponent(project)}/pages/${encodeURIComponent(page.code)}/statistics`;
  return (
    <>
      <RoomHead>
        <h1>{w.title}</h1>
        <Told>{words.margin.asOf(format.fullDay(status), baseline)}</Told>
        <Space />
        <Files base={base} />
        <label>
          <Told>{w.scope} </Told>
          <Select aria-label={w.scope} value={wbs} maxW="260px" onChange={(e) => look({ wbs: e.target.value })}>
            {scopes.map((s) => (
              <option key={`${s.kind}.${s.code}`} value={s.kind === "project" ? "" : s.code}>
                {s.kind === "project" ? w.project : `${s.code} ${s.name}`}
              </option>
            ))}
          </Select>
        </label>
      </RoomHead>
      {children}
      <ScrollBox tabIndex={0} role="region" aria-label={w.summaryOf(scope?.name ?? "")}>
        {scope && (
          <DataTable
            width="auto"
            aria-label={w.summaryOf(scope.name)}
            groups={PARTS.map(({ key, rows, beside }) => [
              <Fragment key={key}>
                <Text as="span" fontFamily="heading" fontWeight="600" fontSize="lead">
                  {w.groupsOfRows[key]}
                </Text>
                {key === "money" && <Soft>, {currency}</Soft>}
              </Fragment>,
              rows.flatMap((r) => scope.rows.find((x) => x.row === r) ?? []).map((row) => ({ row, beside })),
            ])}
            keyOf={({ row }) => row.row}
            columns={[
              { head: true, cell: ({ row }) => w.rows[row.row] },
              ...SUMMARY.map(
                (c): DataColumn<Part> => ({
                  title: w.columns[c],
                  kind: "num",
                  tip: ({ row }) => scope.reasons[`${row.row}.${c}`],
                  cell: ({ row }) => summaryText(row, c),
                }),
              ),
              ...(first
                ? [
                    {
                      title: w.againstFirst(first),
                      kind: "num",
                      cell: ({ row }) => summaryText({ ...row, variance: row.first_variance ?? null }, "variance"),
                    } satisfies DataColumn<Part>,
                  ]
                : []),
              {
                title: w.beside,
                reach: (at, own) => (at === 0 ? own.length : 0),
                cell: ({ beside }) => <FiguresBeside figures={scope.figures} of={beside} />,
              },
            ]}
          />
        )}
        {scope && <Note as="p">{w.differs}</Note>}
        {scope && <Estimates scope={scope} used={eac_method} />}
      </ScrollBox>
    </>
  );
}
