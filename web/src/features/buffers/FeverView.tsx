import { Box, Flex } from "@chakra-ui/react";
import { Link } from "react-router";
import { format, usePlace } from "../../shared";
import { Act, Button, DataTable, MarginHead, Note, PartTitle } from "../../shared/ui";
import { words } from "../../shared/words/buffers";
import { FeverChart, SmallFever } from "./FeverChart";
import type { Fever, Point } from "./useBuffers";

const w = words.buffers;
const ink = (name: string) => `var(--chakra-colors-${name})`;
const percent = (x: number) => format.tenth(x);

/** How the promise stands: the chart, what it means, who used the buffer, what to do first. */
export function FeverView({ fever, wet }: { fever: Fever; wet: boolean }) {
  const { project, page } = usePlace();
  const last = fever.trail.at(-1);
  if (!last) return null;
  return (
    <>
      <Flex wrap="wrap" rowGap="8" columnGap="24" align="flex-start">
        <FeverChart fever={fever} wet={wet} />
        <Box flex="1 1 260px" minW="240px" maxW="460px">
          <MarginHead>{w.projectBuffer(format.tenth(fever.buffer.days))}</MarginHead>
          <Used point={last} />
          <Flex justify="space-between" fontSize="small" color="soft">
            <span>{w.chainEnds(format.day(fever.chain_end))}</span>
            <span>{w.promise(format.day(fever.date))}</span>
          </Flex>
          <PromiseLine fever={fever} last={last} />
          <Link to={`/${encodeURIComponent(project)}/${encodeURIComponent(page.code)}/options`}>{w.toOptions}</Link>
          {fever.feeding.length > 0 && <MarginHead>{w.feeding}</MarginHead>}
          {fever.feeding.map((f) => {
            const now = f.points.at(-1);
            const name = w.before(f.name, f.join_name);
            const used = now?.use == null ? w.noUse : w.of(`${percent(now.use)} %`, format.tenth(f.buffer.days));
            return (
              <Flex
                key={`${f.name}.${f.join}`}
                gap="10"
                align="center"
                py="4"
                borderBottom="1px dotted"
                borderColor="ruleStrong"
              >
                <SmallFever points={f.points} lines={fever} label={`${name}: ${used}`} />
                <span>
                  {name}
                  <Note as="div">
                    {used}
                    {now && `, ${w.zone(now.zone)}`}
                  </Note>
                </span>
              </Flex>
            );
          })}
        </Box>
      </Flex>
      <First fever={fever} />
      <Who fever={fever} />
      <Trail fever={fever} />
    </>
  );
}

/** How much of the project buffer is used, as a length of it. */
function Used({ point }: { point: Point }) {
  const share = Math.min(point.use ?? 0, 100) / 100;
  return (
    <svg width="100%" height="26" viewBox="0 0 100 26" preserveAspectRatio="none" aria-hidden="true">
      <rect
        x="0.4"
        y="4"
        width="99.2"
        height="18"
        fill="none"
        stroke={ink("ink")}
        strokeDasharray="2 1.2"
        vectorEffect="non-scaling-stroke"
      />
      <rect
        x="0.4"
        y="4"
        width={99.2 * share}
        height="18"
        fill={ink("band-soft")}
        stroke={ink("ink")}
        vectorEffect="non-scaling-stroke"
      />
    </svg>
  );
}

function PromiseLine({ fever, last }: { fever: Fever; last: Point }) {
  const t = fever.trend;
  const end = format.fullDay(last.forecast_end);
  const late = (d: number) =>
    Math.abs(d) < 0.05 ? w.onTime : d > 0 ? w.late(format.tenth(d)) : w.early(format.tenth(-d));
  return (
    <Box my="8">
      <p>
        {last.use == null
          ? w.standsNoSize(percent(last.progress), end)
          : w.stands(percent(last.use), percent(last.progress), end)}
      </p>
      {t && (
        <p>
          {w.trend(t.pages, format.fullDay(t.end), late(t.days))} {t.gone_at != null && w.gone(percent(t.gone_at))}
        </p>
      )}
    </Box>
  );
}

function Name({ code, name }: { code: string; name: string }) {
  const { seek } = usePlace();
  return (
    <Button look="link" onClick={() => seek(code)}>
      {name}
    </Button>
  );
}

function First({ fever }: { fever: Fever }) {
  if (fever.first.length === 0) return null;
  const c = w.first;
  return (
    <>
      <PartTitle>{w.firstTitle}</PartTitle>
      <DataTable
        rows={fever.first}
        keyOf={(x) => x.code}
        columns={[
          { title: c.activity, cell: (x) => <Name {...x} /> },
          { title: c.left, kind: "num", cell: (x) => w.days(format.tenth(x.remaining_days)) },
          { title: c.finish, cell: (x) => format.day(x.finish) },
          {
            title: c.why,
            cell: (x) => (x.why === "chain" ? w.chainWhy(w.zone(x.zone)) : w.feedingWhy(w.zone(x.zone))),
          },
        ]}
      />
    </>
  );
}

function Who({ fever }: { fever: Fever }) {
  const { project } = usePlace();
  const c = w.used;
  const rows = [...fever.used].filter((u) => u.days || u.takes_days).sort((a, b) => b.used_days - a.used_days);
  return (
    <>
      <PartTitle>{w.usedTitle}</PartTitle>
      {rows.length === 0 ? (
        <Note>{w.nobody}</Note>
      ) : (
        <DataTable
          rows={rows}
          keyOf={(u) => u.code}
          columns={[
            { title: c.activity, cell: (u) => <Name {...u} /> },
            { title: c.even, kind: "num", cell: (u) => w.days(format.tenth(u.days)) },
            { title: c.takes, kind: "num", cell: (u) => w.days(format.tenth(u.takes_days)) },
            {
              title: c.used,
              kind: "num",
              cell: (u) =>
                u.used_days > 0.005 ? (
                  <Act>{w.days(format.tenth(u.used_days))}</Act>
                ) : u.used_days < -0.005 ? (
                  w.gives(format.tenth(-u.used_days))
                ) : (
                  "–"
                ),
            },
            {
              title: c.page,
              cell: (u) =>
                u.page && (
                  <Link to={`/${encodeURIComponent(project)}/${encodeURIComponent(u.page)}/buffers`}>{u.page}</Link>
                ),
            },
            { title: c.why, cell: (u) => u.note },
          ]}
        />
      )}
    </>
  );
}

/** The chart as a table. */
function Trail({ fever }: { fever: Fever }) {
  const c = w.chart.columns;
  return (
    <>
      <PartTitle>{w.chart.table}</PartTitle>
      <DataTable
        maxW="760px"
        rows={fever.trail}
        keyOf={(p) => p.page}
        columns={[
          { title: c.page, cell: (p) => p.page },
          { title: c.status, cell: (p) => format.date(p.status) },
          { title: c.done, kind: "num", cell: (p) => <>{percent(p.progress)} %</> },
          { title: c.used, kind: "num", cell: (p) => (p.use == null ? (p.reason ?? "–") : `${percent(p.use)} %`) },
          { title: c.zone, cell: (p) => w.zone(p.zone) },
          { title: c.end, cell: (p) => format.date(p.forecast_end) },
        ]}
      />
    </>
  );
}
