import { Box } from "@chakra-ui/react";
import type { ReactNode } from "react";

/** The marks: a shape each, so that colour only supports. */
const shapes: Record<string, { colour: string; draw: ReactNode; word: string }> = {
  done: { colour: "good", word: "Done", draw: <path d="M3 8.5 6.5 12 13 4" /> },
  on_plan: { colour: "band", word: "On plan", draw: <path d="M3 6h10M3 10h10" /> },
  watch: { colour: "watch", word: "Watch", draw: <path d="M6 14V4.5a3 3 0 1 1 3 4.5H8" /> },
  act: { colour: "act", word: "Act", draw: <path d="m4 4 8 8M12 4l-8 8" /> },
  soon: { colour: "soft", word: "Coming soon", draw: <circle cx="8" cy="8" r="3.6" /> },
  not_due: { colour: "soft", word: "Not due", draw: <path d="M4 8h8" /> },
};

interface Props {
  mark: string;
  reasons?: string[];
  size?: number;
  /** Where its word stands beside it. */
  silent?: boolean;
}

/** A mark with its word for those who can't see it. */
export function Mark({ mark, reasons = [], size = 15, silent = false }: Props) {
  const shape = shapes[mark] ?? shapes.not_due;
  const title = [shape?.word, ...reasons].join(": ");
  const said = silent ? { "aria-hidden": true } : { role: "img", "aria-label": title };
  return (
    <Box as="span" color={shape?.colour} display="inline-flex" title={silent ? undefined : title}>
      {/* biome-ignore lint/a11y/noSvgWithoutTitle: the label says it */}
      <svg width={size} height={size} viewBox="0 0 16 16" fill="none" stroke="currentColor" strokeWidth="2" {...said}>
        {shape?.draw}
      </svg>
    </Box>
  );
}
