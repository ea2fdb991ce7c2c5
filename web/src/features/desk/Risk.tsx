import { Box, Flex } from "@chakra-ui/react";
import { Link } from "react-router";
import { format, Mark, useAddressed } from "../../shared";
import { DataTable, Select, Soft } from "../../shared/ui";
import { words } from "../../shared/words/desk";
import type { Project } from "./useDeskLook";

const w = words.desk;
const WIDTH = 560;
const HEIGHT = 400;
const PAD = { left: 78, right: 24, top: 34, bottom: 46 };
const LARGEST = 26;
const SMALLEST = 5;
const INK: Record<string, string> = { act: "act", watch: "watch", on_plan: "good" };
const ink = (name: string) => `var(--chakra-colors-${name})`;

/** The least round number that is not below what is to be shown. */
function round(value: number) {
  if (value <= 0) return 1;
  const unit = 10 ** Math.floor(Math.log10(value));
  return [1, 2, 2.5, 5, 10].map((n) => n * unit).find((n) => n >= value) ?? value;
}

/** Each project of one currency a disc at its risk and its benefit, as large as its budget; the table has the figures. */
export function Risk({ projects }: { projects: Project[] }) {
  const currencies = [...new Set(projects.map((p) => p.currency))];
  const [{ money }, choose] = useAddressed("desk/risk", { money: "" });
  const currency = currencies.includes(money) ? money : (currencies[0] ?? "");
  const mine = projects.filter((p) => p.currency === currency);
  const placed = mine.filter((p) => p.benefit !== null && p.exposure_percent != null);
  const most = round(Math.max(0, ...placed.map((p) => p.exposure_percent ?? 0)));
  const best = round(Math.max(0, ...placed.map((p) => Number(p.benefit))));
  const budget = Math.max(1, ...placed.map((p) => Number(p.bac)));
  const x = (share: number) => PAD.left + (share / most) * (WIDTH - PAD.left - PAD.right);
  const y = (benefit: number) => HEIGHT - PAD.bottom - (benefit / best) * (HEIGHT - PAD.top - PAD.bottom);
  const halves = [0, 0.5, 1];
  return (
    <Flex gap="24" wrap="wrap" align="flex-start">
      <Box flex="0 1 600px">
        <Flex align="center" gap="8" mb="6">
          <Soft flex="1">{w.riskHelp}</Soft>
          {currencies.length > 1 && (
            <Select aria-label={w.currency} value={currency} onChange={(e) => choose({ money: e.target.value })}>
              {currencies.map((c) => (
                <option key={c}>{c}</option>
              ))}
            </Select>
          )}
        </Flex>
        <svg
          viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
          width="100%"
          role="img"
          aria-label={w.riskLabel(placed.length, currency)}
        >
          {halves.map((h) => (
            <g key={h} stroke={ink("rule")} fill={ink("soft")} fontSize="11">
              <path d={`M${PAD.left} ${y(best * h)}H${WIDTH - PAD.right}`} />
              <path d={`M${x(most * h)} ${PAD.top}V${HEIGHT - PAD.bottom}`} />
              <text x={PAD.left - 8} y={y(best * h) + 4} textAnchor="end" stroke="none">
                {format.money(String(best * h), true)}
              </text>
              <text x={x(most * h)} y={HEIGHT - PAD.bottom + 16} textAnchor="middle" stroke="none">
                {`${most * h} %`}
              </text>
            </g>
          ))}
          <text x={(PAD.left + WIDTH) / 2} y={HEIGHT - 8} textAnchor="middle" fill={ink("ink")} fontSize="12">
            {w.exposureOfBac}
          </text>
          <text x="8" y="12" fill={ink("ink")} fontSize="12">
            {w.benefitIn(currency)}
          </text>
          {placed.map((p) => {
            const r = Math.max(SMALLEST, LARGEST * Math.sqrt(Number(p.bac) / budget));
            const at = [x(p.exposure_percent ?? 0), y(Number(p.benefit))] as const;
            const right = at[0] + r + 90 < WIDTH;
            return (
              <g key={p.code}>
                <title>{`${p.name}: ${p.mark_word}`}</title>
                <circle
                  cx={at[0]}
                  cy={at[1]}
                  r={r}
                  fill={ink("sheet")}
                  fillOpacity={0.75}
                  stroke={ink(INK[p.mark] ?? "soft")}
                  strokeWidth={2}
                  strokeDasharray={p.mark === "act" ? undefined : p.mark === "watch" ? "6 3" : "1 3"}
                />
                <text
                  x={right ? at[0] + r + 4 : at[0] - r - 4}
                  y={at[1] + 4}
                  textAnchor={right ? "start" : "end"}
                  fill={ink("ink")}
                  fontSize="12"
                >
                  {p.code}
                </text>
              </g>
            );
          })}
        </svg>
      </Box>
      <Box flex="1 1 460px">
        <DataTable
          aria-label={w.risk}
          rows={mine}
          keyOf={(p) => p.code}
          columns={[
            {
              title: w.project,
              cell: (p) => (
                <>
                  <Link to={`/${encodeURIComponent(p.code)}/${encodeURIComponent(p.page)}/plan/project`}>{p.name}</Link>
                  {p.benefit_basis && <Soft as="div">{w.basis(p.benefit_basis)}</Soft>}
                  {p.unrated.length > 0 && <Soft as="div">{w.unrated(p.unrated.join(", "))}</Soft>}
                </>
              ),
            },
            {
              title: w.status,
              kind: "date",
              cell: (p) => (
                <>
                  <Mark mark={p.mark} silent /> {p.mark_word}
                </>
              ),
            },
            { title: w.bac, kind: "num", cell: (p) => format.money(p.bac) },
            { title: w.exposure, kind: "num", cell: (p) => format.money(p.exposure) },
            {
              title: w.ofBac,
              kind: "num",
              cell: (p) => (p.exposure_percent == null ? "–" : `${format.tenth(p.exposure_percent)} %`),
            },
            {
              title: w.benefit,
              kind: "num",
              cell: (p) => (p.benefit === null ? w.noBenefit : format.money(p.benefit)),
            },
          ]}
        />
      </Box>
    </Flex>
  );
}
