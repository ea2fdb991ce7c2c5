import { Box } from "@chakra-ui/react";
import type { ReactNode } from "react";
import { words } from "./words";

const pivot = <path d="M7 6.4L4.6 12.4H9.4Z" fill="currentColor" strokeWidth="0.6" />;

/** The marks: a beam on its pivot, level, tipped or with both ends down, so that colour only supports. */
const shapes: Record<string, { colour: string; draw: ReactNode; word: string }> = {
  done: { colour: "good", word: words.marks.done ?? "", draw: <path d="M2 7.5L5.6 11L12 3.4" strokeWidth="2.2" /> },
  on_plan: {
    colour: "band",
    word: words.marks.on_plan ?? "",
    draw: (
      <>
        <path d="M1 4.6H13" strokeWidth="2.2" />
        {pivot}
      </>
    ),
  },
  watch: {
    colour: "watch",
    word: words.marks.watch ?? "",
    draw: (
      <>
        <path d="M1.4 8.4L12.6 1.8" strokeWidth="2.2" />
        {pivot}
      </>
    ),
  },
  act: {
    colour: "act",
    word: words.marks.act ?? "",
    draw: (
      <>
        <path d="M1 11.4L7 2.6L13 11.4" strokeWidth="2.2" />
        <path d="M7 8.2L5.4 12.4H8.6Z" fill="currentColor" strokeWidth="0.4" />
      </>
    ),
  },
  soon: { colour: "soft", word: words.marks.soon ?? "", draw: <circle cx="7" cy="7" r="4" strokeWidth="1.8" /> },
  not_due: {
    colour: "soft",
    word: words.marks.not_due ?? "",
    draw: <circle cx="7" cy="7" r="1.2" fill="currentColor" strokeWidth="1" />,
  },
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
  const label = silent ? { "aria-hidden": true } : { role: "img", "aria-label": title };
  return (
    <Box as="span" color={shape?.colour} display="inline-flex" data-tip={silent ? undefined : title}>
      {/* biome-ignore lint/a11y/noSvgWithoutTitle: the label says it */}
      <svg
        width={size}
        height={size}
        viewBox="0 0 14 14"
        fill="none"
        stroke="currentColor"
        strokeLinecap="round"
        {...label}
      >
        {shape?.draw}
      </svg>
    </Box>
  );
}
