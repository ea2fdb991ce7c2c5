import { Box } from "@chakra-ui/react";
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

/** The drawing of a small chart: each line ends with its name. */
export function SmallDrawing({ title, points, series, level }: Props) {
  const rows = points.map((p) => ({ label: p.label, ...p.values }));
  const last = rows.length - 1;
  return (
    <Box as="figure" width="300px" flex="none" m="0">
      <Box as="figcaption" fontSize="12px" color="soft">
        {title}
      </Box>
      <Box height="130px" aria-hidden="true">
        <ResponsiveContainer width="100%" height="100%">
          <LineChart data={rows} margin={{ top: 8, right: 46, bottom: 0, left: 0 }}>
            <XAxis
              dataKey="label"
              tick={FONT}
              interval="preserveStartEnd"
              axisLine={{ stroke: ink("rule") }}
              tickLine={false}
            />
            <YAxis
              width={54}
              tick={FONT}
              tickFormatter={short}
              domain={["auto", "auto"]}
              axisLine={false}
              tickLine={false}
              tickCount={4}
            />
            {level !== undefined && <ReferenceLine y={level} stroke={ink("rule-strong")} strokeDasharray="3 3" />}
            {series.map((s) => (
              <Line
                key={s.key}
                dataKey={s.key}
                stroke={ink(s.ink)}
                strokeWidth={1.8}
                dot={{ r: 1.6 }}
                isAnimationActive={false}
                connectNulls
                label={({ index, x, y }: { index?: number; x?: number | string; y?: number | string }) => (
                  <text x={Number(x) + 5} y={Number(y) + 4} fontSize={11} fill={ink(s.ink)}>
                    {index === last ? s.name : ""}
                  </text>
                )}
              />
            ))}
          </LineChart>
        </ResponsiveContainer>
      </Box>
    </Box>
  );
}
