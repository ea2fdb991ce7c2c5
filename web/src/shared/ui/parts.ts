import { defineRecipe } from "@chakra-ui/react";
import { styled } from "./styled";

const heading = { fontFamily: "heading", fontWeight: 600 } as const;
const cut = { overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap" } as const;
const line = { display: "flex", alignItems: "center", gap: "6px" } as const;

/* Words in their colours. */
export const Soft = styled("span", { base: { color: "soft" } });
export const Act = styled("span", { base: { color: "act" } });
export const Note = styled("span", { base: { color: "soft", fontSize: "12px" } });
/** Why something was not done, beside what caused it. */
export const Why = styled("div", { base: { color: "act", fontSize: "12px", gridColumn: "1 / -1", py: "2px" } });

/* A room: its head, its parts, what scrolls in it. */
export const RoomHead = styled("div", {
  base: {
    ...line,
    gap: "8px",
    p: "10px 14px 8px",
    flex: "none",
    flexWrap: "wrap",
    "& > h1": { ...heading, fontSize: "19px", whiteSpace: "nowrap" },
    "& select": { maxW: "170px" },
    "@media (max-width: 900px)": { gap: "2px 8px", p: "6px 10px 4px", "& > h1": { fontSize: "17px" } },
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
      gap: "4px 12px",
      bg: "plum",
      color: "sheet",
      p: "5px 12px 7px",
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
    gap: "2px",
    p: "0 14px 8px",
    "& a, & button": {
      p: "3px 10px",
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
  base: { flex: 1, minH: 0, minW: 0, overflow: "auto", p: "4px 14px 24px" },
  variants: { filled: { true: { display: "flex", flexDirection: "column" } } },
});
export const PartTitle = styled("h2", {
  base: { ...line, ...heading, gap: "8px", fontSize: "15px", m: "16px 0 6px" },
});
export const RowOf = styled("div", { base: { ...line, flexWrap: "wrap", mt: "6px" } });
export const Bar = styled(
  "div",
  defineRecipe({
    base: { ...line, flex: "none", flexWrap: "wrap", p: "0 14px 8px" },
    variants: {
      kind: {
        view: { "& label": { display: "flex", gap: "4px", alignItems: "center", color: "soft" } },
        bulk: { py: "6px", bg: "wetGround" },
        foot: { py: "6px", borderTopWidth: "1px", borderColor: "rule" },
      },
    },
  }),
);
export const Legend = styled("div", {
  base: {
    flex: "none",
    display: "flex",
    flexWrap: "wrap",
    gap: "4px 16px",
    p: "6px 14px",
    borderTopWidth: "1px",
    borderColor: "ruleStrong",
    color: "soft",
    fontSize: "11.5px",
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
    p: "4px 8px 12px 14px",
    "& form > input": { flex: 1 },
  },
});

/* The margin. */
export const MarginTitle = styled("h2", { base: { ...heading, fontSize: "16px", lineHeight: 1.25, pr: "26px" } });
export const MarginHead = styled("h3", {
  base: { fontSize: "11px", fontWeight: 600, color: "soft", m: "14px 0 2px" },
});
/** A name and its figure. */
export const Pair = styled(
  "div",
  defineRecipe({
    base: {
      display: "flex",
      alignItems: "baseline",
      justifyContent: "space-between",
      gap: "10px",
      py: "3px",
      fontVariantNumeric: "tabular-nums",
      "& > :last-child": { textAlign: "right", whiteSpace: "nowrap" },
      "& > :first-of-type": { minW: 0 },
      "& > :first-of-type button": { whiteSpace: "normal" },
      "& small": { color: "soft" },
    },
    variants: {
      dotted: { true: { borderBottom: "1px dotted", borderColor: "ruleStrong" } },
      facts: { true: { "& > :last-child": { whiteSpace: "normal" }, "& > :first-of-type": { whiteSpace: "nowrap" } } },
      sum: { true: { borderTopWidth: "1px", borderColor: "ruleStrong", mt: "3px" } },
    },
  }),
);
export const Working = styled("div", {
  base: { borderLeftWidth: "3px", borderColor: "wet", bg: "sheet", p: "7px 10px" },
});
export const NoteLine = styled(
  "div",
  defineRecipe({
    base: {
      display: "grid",
      gridTemplateColumns: "1fr",
      gridAutoFlow: "column",
      gridAutoColumns: "minmax(34px, max-content)",
      gap: "4px",
      alignItems: "center",
      py: "2px",
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
export const NoteName = styled("span", { base: { ...cut, minW: 0 } });

/* Forms. */
export const FactsGrid = styled(
  "div",
  defineRecipe({
    base: {
      display: "grid",
      gridTemplateColumns: "repeat(2, minmax(200px, 1fr))",
      gap: "2px 24px",
      maxW: "860px",
      pb: "10px",
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
      gap: "2px 6px",
      py: "2px",
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
    gap: "4px 8px",
    alignItems: "start",
    py: "4px",
    "& > span:first-of-type": { color: "soft", pt: "4px" },
    "& input:not([type=checkbox], [type=radio]), & textarea, & select": { width: "100%" },
  },
});
const ticks = { "& input": { width: "16px", height: "16px", m: "5px" } } as const;
export const ChoiceLine = styled("label", {
  base: { ...ticks, display: "flex", gap: "6px", alignItems: "baseline", py: "2px" },
});
export const TickBox = styled("label", {
  base: { ...ticks, display: "flex", gap: "4px", alignItems: "center", whiteSpace: "nowrap" },
});
/** A line of something that can be chosen, in what opens over the room. */
export const PickLine = styled("div", {
  base: {
    display: "flex",
    alignItems: "center",
    gap: "4px",
    py: "2px",
    "& label": { flex: 1, display: "flex", gap: "6px" },
    "& select": { maxW: "130px" },
  },
});

/* Drawings. */
export const Tick = styled("text", { base: { fontSize: "10.5px", fill: "soft" } });

/** A figure with its name before it. */
export const Named = styled("span", {
  base: { fontVariantNumeric: "tabular-nums", "& > small": { color: "soft", fontSize: "11px" } },
});
/** The place where one reads down a page. */
export const Reading = styled("div", {
  base: { flex: 1, overflow: "auto", p: "0 18px 30px", "& h2": { ...heading, fontSize: "15px", m: "18px 0 4px" } },
});
export const Settling = styled("span", {
  base: { animation: "settle 0.5s ease-out", _motionReduce: { animation: "none" } },
});
