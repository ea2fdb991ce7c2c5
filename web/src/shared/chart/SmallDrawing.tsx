import { Box, Flex } from "@chakra-ui/react";
import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { money } from "../format";
import { INKS, ink } from "./plot";

export interface Point {
  label: string;
  values: Record<string, number | null>;
}

interface Props {
  title: string;
  points: Point[];
  series: { key: string; name: string; ink: string }[];
  level?: number;
}

const two = (n: number) => money(String(Math.round(n * 100) / 100));
/** An amount short of room. */
const short = (n: number) =>
  Math.abs(n) >= 1_000_000 ? `${two(n / 1_000_000)} M` : Math.abs(n) >= 1000 ? `${two(n / 1000)} k` : two(n);

const DASHES = [undefined, "6 3", "2 2"];
const [HEIGHT, LEFT, FOOT, TOP] = [130, 50, 28, 8];
/** The width of the name of a page. */
const NAME = 58;

/** The drawing of a small chart, and beside it the name of each line, the highest at the end first. */
export function SmallDrawing({ title, points, series, level }: Props) {
  const end = (key: string) => points.at(-1)?.values[key] ?? Number.NEGATIVE_INFINITY;
  const named = series.map((s, i) => ({ ...s, dash: DASHES[i] })).sort((a, b) => end(b.key) - end(a.key));
  const width = series.length > 1 ? 252 : 310;
  const values = points.flatMap((p) => named.flatMap((s) => p.values[s.key] ?? []));
  const y = scaleLinear([Math.min(...values), Math.max(...values)], [HEIGHT - FOOT, TOP]).nice(4);
  const x = scaleLinear([0, Math.max(points.length - 1, 1)], [LEFT + 8, width - 24]);
  const every = Math.ceil(points.length / Math.floor((width - LEFT) / NAME));
  const spots = (key: string) =>
    points.flatMap((p, i): [number, number][] => {
      const value = p.values[key];
      return value == null ? [] : [[x(i), y(value)]];
    });
  const path = line();
  return (
    <Box as="figure" width="310px" flex="none" m="0">
      <Box as="figcaption" fontSize="small" color="soft">
        {title}
      </Box>
      <Flex align="center">
        <svg width={width} height={HEIGHT} aria-hidden="true" fontSize={11} fill={INKS.soft}>
          <path d={`M${LEFT} ${HEIGHT - FOOT}H${width}`} stroke={INKS.rule} />
          {values.length > 0 &&
            y.ticks(4).map((n) => (
              <text key={n} x={LEFT - 6} y={y(n) + 4} textAnchor="end">
                {short(n)}
              </text>
            ))}
          {points.map((p, i) =>
            i % every === 0 ? (
              <text key={p.label} x={x(i)} y={HEIGHT - 7} textAnchor="middle">
                {p.label}
              </text>
            ) : null,
          )}
          {level !== undefined && y(level) >= TOP && y(level) <= HEIGHT - FOOT && (
            <path d={`M${LEFT} ${y(level)}H${width}`} stroke={ink("rule-strong")} strokeDasharray="1 3" />
          )}
          {named.map((s) => (
            <g key={s.key} stroke={ink(s.ink)} fill="none">
              <path data-line={s.key} d={path(spots(s.key)) ?? undefined} strokeWidth={1.8} strokeDasharray={s.dash} />
              {spots(s.key).map(([cx, cy]) => (
                <circle key={cx} cx={cx} cy={cy} r={1.6} fill={ink("sheet")} />
              ))}
            </g>
          ))}
        </svg>
        {series.length > 1 && (
          <Box width="58px" fontSize="fine">
            {named.map((s) => (
              <Box key={s.key} color={s.ink}>
                <svg width="22" height="8" aria-hidden="true">
                  <path d="M0 4H22" stroke="currentColor" strokeWidth="1.8" strokeDasharray={s.dash} />
                </svg>{" "}
                {s.name}
              </Box>
            ))}
          </Box>
        )}
      </Flex>
    </Box>
  );
}
