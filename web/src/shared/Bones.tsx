import { Box, VisuallyHidden } from "@chakra-ui/react";
import { styled } from "./ui";
import { words } from "./words";

const bone = "color-mix(in srgb, var(--chakra-colors-rule) 55%, transparent)";
/** Where the bones of a line stand, and how wide they are. */
const COLUMNS = [
  [0, 46],
  [62, 150],
  [340, 60],
  [430, 60],
  [520, 60],
] as const;
const LINE = 28;

const Lines = styled("div", {
  base: {
    m: "14",
    height: `${LINE * 13}px`,
    maxH: "calc(100% - 28px)",
    backgroundImage: [
      ...COLUMNS.map(() => `linear-gradient(transparent 9px, ${bone} 9px 19px, transparent 19px)`),
      "linear-gradient(transparent 27px, var(--chakra-colors-rule) 27px)",
    ].join(),
    backgroundSize: [...COLUMNS.map(([, width]) => `${width}px ${LINE}px`), `100% ${LINE}px`].join(),
    backgroundPosition: [...COLUMNS.map(([left]) => `${left}px 0`), "0 0"].join(),
    backgroundRepeat: "repeat-y",
  },
});

/** A room while it waits: its lines and columns, where they will stand. One part draws them all: it comes and goes at each step. */
export const Bones = () => (
  <Box role="status" flex="1" minH="0" overflow="hidden">
    <VisuallyHidden>{words.frame.loading}</VisuallyHidden>
    <Lines aria-hidden="true" />
  </Box>
);
