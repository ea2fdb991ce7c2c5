import { useState } from "react";
import { Link } from "react-router";
import { Entry, format, Pick, usePlace } from "../../shared";
import { Act, Button, DataTable, FactsGrid, Note, PartTitle, RowOf, Soft, Why } from "../../shared/ui";
import { words } from "../../shared/words/buffers";
import type { Buffers, useBuffers } from "./useBuffers";

const w = words.buffers;
type Rows = Buffers["chain"]["rows"];
type Does = ReturnType<typeof useBuffers>;

/** The chain as levelling and even odds give it now: what is tied to what, its buffers, and making it the promise. */
export function ChainView({ data, does }: { data: Buffers; does: Does }) {
  const { project, page, person } = usePlace();
  const { chain } = data;
  const span = (a: string, b: string) => [format.day(a), format.day(b)] as const;
  const open = data.wet && person.role !== "reader";
  return (
    <>
      {chain.without_safe.length > 0 && data.any_safe && (
        <Note as="details">
          <summary>{w.without(chain.without_safe.length)}</summary>
          {chain.without_safe.map(([code, name]) => `${code} ${name}`).join(", ")}
        </Note>
      )}
      {chain.moved > 0 && (
        <p>
          {w.moved(chain.moved)}{" "}
          <Link
            to={`/${encodeURIComponent(project)}/${encodeURIComponent(page.code)}/options/levelling?mode=beyond_float`}
          >
            {w.see}
          </Link>
        </p>
      )}
      {data.wet && chain.promise && chain.rows.length > 0 && (
        <Approve does={does} date={chain.promise} may={person.role === "approver"} />
      )}
      <PartTitle>{w.chainTitle(format.tenth(chain.days))}</PartTitle>
      <Chain rows={chain.rows} />
      {chain.buffer && (
        <p>{w.buffer(format.tenth(chain.buffer.days), ...span(chain.buffer.start, chain.buffer.end))}</p>
      )}
      {chain.feeding.map((f) => (
        <section key={`${f.join}.${f.rows.at(-1)?.code}`}>
          <PartTitle>{w.feedingTitle(f.join_name)}</PartTitle>
          <Chain rows={f.rows} />
          <p>
            {w.feedingBuffer(format.tenth(f.buffer.days), ...span(f.buffer.start, f.buffer.end))}
            {f.shortage_days > 0 && (
              <>
                {"; "}
                <Act>{w.shortage(format.tenth(f.shortage_days))}</Act>
              </>
            )}
          </p>
        </section>
      ))}
      <Choices data={data} does={does} open={open} />
    </>
  );
}

/** What an activity of the chain follows, and by what. */
function tieOf(after: string) {
  const at = after.indexOf(":");
  return at < 0 ? <Soft>{w.first0}</Soft> : w.tie(after.slice(0, at), after.slice(at + 1));
}

function Chain({ rows }: { rows: Rows }) {
  const { seek } = usePlace();
  const c = w.chain;
  return (
    <DataTable
      rows={rows}
      keyOf={(x) => x.code}
      columns={[
        {
          title: c.activity,
          cell: (x) => (
            <Button look="link" onClick={() => seek(x.code)}>
              {x.name}
            </Button>
          ),
        },
        { title: c.start, cell: (x) => format.day(x.start) },
        { title: c.finish, cell: (x) => format.day(x.finish) },
        { title: c.even, kind: "num", cell: (x) => w.days(format.tenth(x.days)) },
        { title: c.safety, kind: "num", cell: (x) => w.days(format.tenth(x.safety_days)) },
        { title: c.after, cell: (x) => tieOf(x.after) },
      ]}
    />
  );
}

/** Approving asks once more: it freezes what every later page is measured against. */
function Approve({ does, date, may }: { does: Does; date: string; may: boolean }) {
  const [sure, setSure] = useState(false);
  if (!may) return <Soft as="p">{w.needs}</Soft>;
  return (
    <RowOf>
      <Button
        look="seal"
        onClick={async () => {
          if (sure) await does.approve();
          setSure(!sure);
        }}
      >
        {sure ? w.sure(format.fullDay(date)) : w.approve}
      </Button>
      {sure && <Button onClick={() => setSure(false)}>{w.cancel}</Button>}
      {sure && <span>{w.frozen}</span>}
      {does.refused && <Why role="alert">{does.refused}</Why>}
    </RowOf>
  );
}

function Choices({ data, does, open }: { data: Buffers; does: Does; open: boolean }) {
  const [watch, act] = [data.watch, data.act];
  const field = (zone: "watch" | "act", end: "from" | "to", value: number) => (
    <Entry
      key={`${zone}_${end}`}
      stacked
      label={w.at(zone, end)}
      value={`${format.tenth(value)} %`}
      disabled={!open}
      trouble={does.why(`${zone}_${end}`)}
      write={(text) => void does.choose(`${zone}_${end}`, text)}
    />
  );
  return (
    <>
      <PartTitle>{w.choices}</PartTitle>
      <FactsGrid>
        <Pick
          label={w.size}
          value={data.size}
          options={[
            ["root", w.root],
            ["half", w.half],
          ]}
          disabled={!open}
          write={(size) => void does.choose("size", size)}
        />
        <span />
        {field("watch", "from", watch[0] ?? 0)}
        {field("watch", "to", watch[1] ?? 0)}
        {field("act", "from", act[0] ?? 0)}
        {field("act", "to", act[1] ?? 0)}
      </FactsGrid>
    </>
  );
}
