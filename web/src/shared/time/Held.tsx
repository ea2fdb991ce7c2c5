const ink = (name: string) => `var(--chakra-colors-${name})`;
const TOP = 5;
const DEPTH = 11;

/** Where a bar would lie. */
export const Ghost = ({ from, to }: { from: number; to: number }) => (
  <rect
    x={from}
    y={TOP - 1}
    width={Math.max(to - from, 2)}
    height={DEPTH + 2}
    fill="none"
    stroke={ink("wet")}
    strokeWidth={1.5}
    strokeDasharray="3 2"
  />
);

/** A pause that is being drawn over a bar, with its dates. */
export const HeldPause = ({ from, to, says }: { from: number; to: number; says: string }) => (
  <>
    <rect
      x={Math.min(from, to)}
      y={TOP - 2}
      width={Math.abs(to - from)}
      height={DEPTH + 4}
      fill={ink("sheet")}
      stroke={ink("wet")}
      strokeDasharray="2 2"
    />
    <text
      x={Math.max(from, to) + 6}
      y={TOP + 10}
      fill={ink("wet")}
      stroke={ink("sheet")}
      strokeWidth={4}
      paintOrder="stroke"
    >
      {says}
    </text>
  </>
);
