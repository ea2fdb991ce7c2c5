import type { Schemas } from "../../api";
import { format } from "../../shared";
import { Tick } from "../../shared/ui";
import { words } from "../../shared/words/budget";

const [WIDTH, HEIGHT, LEFT, BOTTOM] = [860, 150, 70, 22];

/** The cumulative budget under its table. The table above says the same in figures. */
export function Running({ phased, currency }: { phased: Schemas["PhasedOut"]; currency: string }) {
  const most = Math.max(...phased.running.map(Number), 1);
  const x = (i: number) => LEFT + (i / Math.max(phased.ends.length - 1, 1)) * (WIDTH - LEFT - 60);
  const y = (amount: number) => 8 + (1 - amount / most) * (HEIGHT - BOTTOM - 8);
  const points = phased.running.map((c, i) => `${x(i)},${y(Number(c))}`).join(" ");
  const every = Math.ceil(phased.ends.length / 10);
  return (
    <svg width={WIDTH} height={HEIGHT} role="img" aria-label={words.budget.curve(currency)}>
      {[0, 0.5, 1].map((s) => (
        <g key={s}>
          <path d={`M${LEFT} ${y(most * s)}H${WIDTH - 60}`} stroke="var(--chakra-colors-rule)" />
          <Tick x={LEFT - 6} y={y(most * s) + 4} textAnchor="end">
            {format.money(String(Math.round(most * s)))}
          </Tick>
        </g>
      ))}
      <polyline points={points} fill="none" stroke="var(--chakra-colors-pv)" strokeWidth={2} />
      {phased.ends.map((e, i) =>
        i % every === 0 ? (
          <Tick key={e} x={x(i)} y={HEIGHT - 6} textAnchor="middle">
            {format.day(e)}
          </Tick>
        ) : null,
      )}
      <Tick x={WIDTH - 56} y={y(most) + 4}>
        {words.budget.line}
      </Tick>
    </svg>
  );
}
