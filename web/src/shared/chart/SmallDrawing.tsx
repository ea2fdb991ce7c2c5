import { Box, Flex } from "@chakra-ui/react";
import { Line, LineChart, ReferenceLine, ResponsiveContainer, XAxis, YAxis } from "recharts";

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

const ink = (name: string) => `var(--chakra-colors-${name})`;
const FONT = { fontSize: 11, fill: ink("soft") };
const short = (n: number) =>
  Math.abs(n) >= 1_000_000
    ? `${(n / 1_000_000).toFixed(2)} M`
    : Math.abs(n) >= 1000
      ? `${Math.round(n / 1000)} k`
      : String(n);

const DASHES = [undefined, "6 3", "2 2"];

/** The drawing of a small chart, and beside it the name of each line, the highest at the end first. */
export function SmallDrawing({ title, points, series, level }: Props) {
  const rows = points.map((p) => ({ label: p.label, ...p.values }));
  const end = (key: string) => points.at(-1)?.values[key] ?? Number.NEGATIVE_INFINITY;
  const named = series.map((s, i) => ({ ...s, dash: DASHES[i] })).sort((a, b) => end(b.key) - end(a.key));
  return (
    <Box as="figure" width="310px" flex="none" m="0">
      <Box as="figcaption" fontSize="12px" color="soft">
        {title}
      </Box>
      <Flex align="center">
        <Box height="130px" flex="1" aria-hidden="true">
          <ResponsiveContainer width="100%" height="100%">
            <LineChart accessibilityLayer={false} data={rows} margin={{ top: 8, right: 8, bottom: 0, left: 0 }}>
              <XAxis
                padding={{ left: 8 }}
                tickMargin={6}
                dataKey="label"
                tick={FONT}
                interval="preserveStartEnd"
                axisLine={{ stroke: ink("rule") }}
                tickLine={false}
              />
              <YAxis
                padding={{ bottom: 8 }}
                width={54}
                tick={FONT}
                tickFormatter={short}
                domain={["auto", "auto"]}
                axisLine={false}
                tickLine={false}
                tickCount={4}
              />
              {level !== undefined && <ReferenceLine y={level} stroke={ink("rule-strong")} strokeDasharray="1 3" />}
              {named.map((s) => (
                <Line
                  key={s.key}
                  dataKey={s.key}
                  stroke={ink(s.ink)}
                  strokeWidth={1.8}
                  strokeDasharray={s.dash}
                  dot={{ r: 1.6, strokeDasharray: "none" }}
                  isAnimationActive={false}
                  connectNulls
                />
              ))}
            </LineChart>
          </ResponsiveContainer>
        </Box>
        {series.length > 1 && (
          <Box width="58px" fontSize="11px">
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
