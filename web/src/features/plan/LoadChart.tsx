import type { Schemas } from "../../api";
import { format, words } from "../../shared";

const w = words.resources;
const BAR = 16;
const TALL = 120;

/** The load of a resource: hours asked as a bar, hours there as a rule over it; what goes beyond is hatched and named. */
export function LoadChart({ load, loads }: { load: Schemas["LoadOut"]; loads: Schemas["LoadsOut"] }) {
  const { asked, there } = load;
  if (!asked.some((h) => h > 0)) return <p className="soft-text">{w.idle}</p>;
  const most = Math.max(...asked, ...there, 1);
  const y = (hours: number) => TALL - (hours / most) * TALL;
  const over = new Set(load.over);
  return (
    <>
      <div className="load-box">
        <svg
          width={asked.length * BAR + 60}
          height={TALL + 34}
          role="img"
          aria-label={w.chart(load.name, load.over.length)}
        >
          <pattern id="over" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <path d="M0 0V5" stroke="var(--chakra-colors-act)" strokeWidth="1.6" />
          </pattern>
          {asked.map((hours, i) => {
            const cap = there[i] ?? 0;
            const within = Math.min(hours, cap);
            const end = loads.ends[i] ?? "";
            return (
              <g key={end} transform={`translate(${50 + i * BAR},4)`}>
                <title>{w.point(format.fullDay(end), hours, cap)}</title>
                <rect x={2} width={BAR - 4} y={y(within)} height={TALL - y(within)} fill="var(--chakra-colors-band)" />
                {over.has(i) && (
                  <rect
                    x={2}
                    width={BAR - 4}
                    y={y(hours)}
                    height={y(cap) - y(hours)}
                    fill="url(#over)"
                    stroke="var(--chakra-colors-act)"
                  />
                )}
                <path d={`M0 ${y(cap)}H${BAR}`} stroke="var(--chakra-colors-ink)" strokeWidth={1.4} />
                {i % 4 === 0 && (
                  <text x={0} y={TALL + 16} className="load-tick">
                    {format.day(end)}
                  </text>
                )}
              </g>
            );
          })}
          {[0, most / 2, most].map((h) => (
            <text key={h} x={44} y={y(h) + 8} textAnchor="end" className="load-tick">
              {Math.round(h)} h
            </text>
          ))}
        </svg>
      </div>
      <table className="plain register">
        <caption className="soft-text">{load.over.length ? w.overTitle : w.fits}</caption>
        {load.over.length > 0 && (
          <>
            <thead>
              <tr>
                <th>{w.upTo}</th>
                <th className="num">{w.asked}</th>
                <th className="num">{w.there}</th>
                <th>{w.causes}</th>
              </tr>
            </thead>
            <tbody>
              {load.over.map((i) => (
                <tr key={i}>
                  <td>{format.fullDay(loads.ends[i])}</td>
                  <td className="num">{asked[i]} h</td>
                  <td className="num">{there[i]} h</td>
                  <td>
                    {(load.causes?.[String(i)] ?? []).map((c) => (
                      <div key={c.row}>
                        {c.code} {c.name}, {c.hours} h
                      </div>
                    ))}
                  </td>
                </tr>
              ))}
            </tbody>
          </>
        )}
      </table>
    </>
  );
}
