import { defineRecipe } from "@chakra-ui/react";
import { styled } from "./styled";

const heading = { fontFamily: "heading", fontWeight: 600 } as const;
const line = { display: "flex", alignItems: "center", gap: "6" } as const;

/* Words in their colours. */
export const Soft = styled("span", { base: { color: "soft" } });
export const Act = styled("span", { base: { color: "act" } });
export const Note = styled("span", { base: { color: "soft", fontSize: "small" } });
/** Why something was not done, beside what caused it. */
export const Why = styled("div", { base: { color: "act", fontSize: "small", gridColumn: "1 / -1", py: "2" } });

/* A room: its head, its parts, what scrolls in it. */
export const RoomHead = styled("div", {
  base: {
    ...line,
    gap: "8",
    pt: "10",
    px: "14",
    pb: "8",
    flex: "none",
    flexWrap: "wrap",
    "& > h1": { ...heading, fontSize: "room", whiteSpace: "nowrap" },
    "& select": { maxW: "170px" },
    "@media (max-width: 900px)": {
      rowGap: "2",
      columnGap: "8",
      pt: "6",
      px: "10",
      pb: "4",
      "& > h1": { fontSize: "part" },
    },
  },
});
/** The plan with an option on top: framed, so that nobody takes it for the plan. */
export const InOption = styled("div", {
  base: {
    display: "flex",
    flexDirection: "column",
    flex: 1,
    minH: 0,
    borderWidth: "3px",
    borderColor: "plum",
    "& > [data-head]": {
      ...line,
      flexWrap: "wrap",
      rowGap: "4",
      columnGap: "10",
      bg: "plum",
      color: "sheet",
      pt: "6",
      px: "10",
      pb: "8",
      flex: "none",
    },
    "& > [data-head] a": { color: "inherit", textDecoration: "underline", textUnderlineOffset: "2px" },
  },
});
export const Told = styled("span", { base: { color: "soft", minW: 0, flex: "0 1 auto" } });
export const Space = styled("span", { base: { flex: 1 } });
export const Parts = styled("div", {
  base: {
    display: "flex",
    flex: "none",
    flexWrap: "wrap",
    gap: "2",
    pt: "0",
    px: "14",
    pb: "8",
    "& a, & button": {
      py: "4",
      px: "10",
      borderBottomWidth: "2px",
      borderColor: "transparent",
      color: "soft",
      cursor: "pointer",
      _hover: { color: "ink" },
    },
    "& [aria-current=page], & [aria-selected=true]": { color: "ink", fontWeight: 600, borderBottomColor: "ink" },
  },
});
export const ScrollBox = styled("div", {
  base: { flex: 1, minH: 0, minW: 0, overflow: "auto", pt: "4", px: "14", pb: "24" },
  variants: { filled: { true: { display: "flex", flexDirection: "column" } } },
});
export const PartTitle = styled("h2", {
  base: { ...line, ...heading, gap: "8", fontSize: "lead", mt: "14", mx: "0", mb: "6" },
});
export const RowOf = styled("div", { base: { ...line, flexWrap: "wrap", mt: "6" } });
export const Bar = styled(
  "div",
  defineRecipe({
    base: { ...line, flex: "none", flexWrap: "wrap", pt: "0", px: "14", pb: "8" },
    variants: {
      kind: {
        view: { "& label": { display: "flex", gap: "4", alignItems: "center", color: "soft" } },
        bulk: { py: "6", bg: "wetGround" },
        foot: { py: "6", borderTopWidth: "1px", borderColor: "rule" },
      },
    },
  }),
);
export const Legend = styled("div", {
  base: {
    flex: "none",
    display: "flex",
    flexWrap: "wrap",
    rowGap: "4",
    columnGap: "14",
    py: "6",
    px: "14",
    borderTopWidth: "1px",
    borderColor: "ruleStrong",
    color: "soft",
    fontSize: "fine",
  },
});

/* A list at the side, and what is chosen of it. */
export const SideBy = styled("div", { base: { flex: 1, minH: 0, display: "flex" } });
export const SideList = styled("div", {
  base: {
    width: "210px",
    flex: "none",
    overflow: "auto",
    borderRightWidth: "1px",
    borderColor: "rule",
    pt: "4",
    pr: "8",
    pb: "10",
    pl: "14",
    "& form > input": { flex: 1 },
  },
});

/* The margin. */
export const MarginTitle = styled("h2", { base: { ...heading, fontSize: "lead", lineHeight: 1.25, pr: "24" } });
export const MarginHead = styled("h3", {
  base: { fontSize: "fine", fontWeight: 600, color: "soft", mt: "14", mx: "0", mb: "2" },
});
/** A name and its figure. */
export const Pair = styled(
  "div",
  defineRecipe({
    base: {
      display: "flex",
      alignItems: "baseline",
      justifyContent: "space-between",
      gap: "10",
      py: "4",
      fontVariantNumeric: "tabular-nums",
      "& > :last-child": { textAlign: "right", whiteSpace: "nowrap" },
      "& > :first-of-type": { minW: 0 },
      "& > :first-of-type button": { whiteSpace: "normal" },
      "& small": { color: "soft" },
    },
    variants: {
      dotted: { true: { borderBottom: "1px dotted", borderColor: "ruleStrong" } },
      facts: { true: { "& > :last-child": { whiteSpace: "normal" }, "& > :first-of-type": { whiteSpace: "nowrap" } } },
      sum: { true: { borderTopWidth: "1px", borderColor: "ruleStrong", mt: "4" } },
    },
  }),
);
export const Working = styled("div", {
  base: { borderLeftWidth: "3px", borderColor: "wet", bg: "sheet", py: "8", px: "10" },
});
export const NoteLine = styled(
  "div",
  defineRecipe({
    base: {
      display: "grid",
      gridTemplateColumns: "1fr",
      gridAutoFlow: "column",
      gridAutoColumns: "minmax(34px, max-content)",
      gap: "4",
      alignItems: "center",
      py: "2",
      borderBottom: "1px dotted",
      borderColor: "rule",
      "& [data-entry]": { width: "52px" },
    },
    variants: {
      kind: {
        pause: { gridTemplateColumns: "1fr 1fr", gridAutoFlow: "row" },
        weight: {
          gridAutoFlow: "row",
          gridTemplateColumns: "1fr 52px 52px 26px",
          "& [data-right]": { textAlign: "right" },
        },
      },
    },
  }),
);
export const NoteName = styled("span", { base: { minW: 0, overflowWrap: "anywhere" } });

/* Forms. */
export const FactsGrid = styled(
  "div",
  defineRecipe({
    base: {
      display: "grid",
      gridTemplateColumns: "repeat(2, minmax(200px, 1fr))",
      rowGap: "2",
      columnGap: "24",
      maxW: "860px",
      pb: "10",
      "& > [data-wide]": { gridColumn: "1 / -1" },
    },
    variants: { three: { true: { gridTemplateColumns: "repeat(3, minmax(150px, 1fr))" } } },
  }),
);
export const EntryBox = styled(
  "div",
  defineRecipe({
    base: {
      display: "grid",
      gridTemplateColumns: "92px 1fr",
      alignItems: "center",
      rowGap: "2",
      columnGap: "6",
      py: "2",
      "& label": { color: "soft" },
      "& textarea": { width: "100%" },
      "& [aria-invalid]": { borderColor: "act" },
    },
    variants: { bare: { true: { display: "block", p: 0, minW: 0, "& input, & select": { width: "100%" } } } },
  }),
);
export const FormLine = styled("div", {
  base: {
    display: "grid",
    gridTemplateColumns: "110px 1fr",
    rowGap: "4",
    columnGap: "8",
    alignItems: "start",
    py: "4",
    "& > span:first-of-type": { color: "soft", pt: "4" },
    "& input:not([type=checkbox], [type=radio]), & textarea, & select": { width: "100%" },
  },
});
const ticks = { "& input": { width: "16px", height: "16px", m: "6" } } as const;
export const ChoiceLine = styled("label", {
  base: { ...ticks, display: "flex", gap: "6", alignItems: "baseline", py: "2" },
});
export const TickBox = styled("label", {
  base: { ...ticks, display: "flex", gap: "4", alignItems: "center", whiteSpace: "nowrap" },
});
/** A line of something that can be chosen, in what opens over the room. */
export const PickLine = styled("div", {
  base: {
    minH: "24px",
    display: "flex",
    alignItems: "center",
    gap: "4",
    py: "2",
    "& label": { flex: 1, display: "flex", gap: "6" },
    "& select": { maxW: "130px" },
  },
});

/* Drawings. */
export const Tick = styled("text", { base: { fontSize: "fine", fill: "soft" } });

/** A figure with its name before it. */
export const Named = styled("span", {
  base: { fontVariantNumeric: "tabular-nums", "& > small": { color: "soft", fontSize: "fine" } },
});
/** The place where one reads down a page. */
export const Reading = styled("div", {
  base: {
    flex: 1,
    overflow: "auto",
    pt: "0",
    px: "18",
    pb: "24",
    "& h2": { ...heading, fontSize: "lead", mt: "18", mx: "0", mb: "4" },
  },
});
export const Settling = styled("span", {
  base: { animation: "settle 0.5s ease-out", _motionReduce: { animation: "none" } },
});
