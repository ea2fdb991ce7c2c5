import { createSystem, defaultBaseConfig, defineConfig, defineSlotRecipe } from "@chakra-ui/react";

/** Paper and ink by day, slate and chalk by night. Wet ink appears only where something is open to change. */
const pair = (light: string, dark: string) => ({ value: { base: light, _dark: dark } });

/** All sizes of type, and all of space. */
const sizes = (given: Record<string, number>) =>
  Object.fromEntries(Object.entries(given).map(([name, pixels]) => [name, { value: `${pixels}px` }]));

export const colours = {
  paper: pair("#FAF8F2", "#12161F"),
  sheet: pair("#FFFDF8", "#171C27"),
  ink: pair("#1B2333", "#E8E5DC"),
  soft: pair("#5B6472", "#A6ADBB"),
  rule: pair("#DDD6C6", "#2C3444"),
  ruleStrong: pair("#B9B09B", "#4C566B"),
  control: pair("#8A8168", "#7C88A2"),
  wet: pair("#4B3FC7", "#ABA3FF"),
  wetGround: pair("#F0EEFC", "#232044"),
  wetText: pair("#FFFFFF", "#12161F"),
  band: pair("#2E4A62", "#8FB2CE"),
  bandSoft: pair("#C9D5DE", "#33485B"),
  plum: pair("#6B2A5B", "#DDA0CC"),
  good: pair("#0B6B5F", "#5CC4B0"),
  watch: pair("#865A00", "#E3B252"),
  act: pair("#A8321F", "#F39480"),
  pv: pair("#5B6472", "#A6ADBB"),
  ev: pair("#0B6B5F", "#5CC4B0"),
  ac: pair("#8A2F5B", "#E792BA"),
  leaf: pair("#EDE8DB", "#222938"),
};

/** The parts of what stands over a room. */
const SLOTS = ["trigger", "positioner", "content", "title", "description", "closeTrigger", "header", "body", "footer"];

const dialog = defineSlotRecipe({
  slots: [...SLOTS, "backdrop"],
  base: {
    backdrop: { position: "fixed", inset: 0, bg: "ink/35", zIndex: 40 },
    positioner: {
      position: "fixed",
      inset: 0,
      zIndex: 41,
      display: "flex",
      alignItems: "flex-start",
      justifyContent: "center",
      overflow: "auto",
      py: "64px",
      px: "10",
    },
    content: {
      position: "relative",
      width: "100%",
      maxW: "520px",
      bg: "sheet",
      color: "ink",
      borderWidth: "1px",
      borderColor: "ruleStrong",
      borderTopWidth: "4px",
      borderTopColor: "ink",
      borderRadius: "2px",
      outline: 0,
    },
    header: { px: "24", pt: "18", pb: "8" },
    title: { fontFamily: "heading", fontWeight: 600, fontSize: "part" },
    body: { px: "24", pb: "14" },
    footer: { px: "24", pb: "18", display: "flex", gap: "8", justifyContent: "flex-end" },
  },
});

/** What stands over the sheet: a menu, or a part that is opened. */
const floating = {
  zIndex: 40,
  outline: 0,
  bg: "sheet",
  color: "ink",
  borderWidth: "1px",
  borderColor: "ruleStrong",
  boxShadow: "0 4px 14px rgb(0 0 0 / 18%)",
} as const;

const popover = defineSlotRecipe({
  slots: [...SLOTS, "arrow", "arrowTip", "anchor", "indicator"],
  base: {
    content: {
      ...floating,
      p: "10",
      width: "290px",
      maxH: "420px",
      overflow: "auto",
    },
  },
});

/** What is said of a thing that one points at or reaches by keyboard. */
const tooltip = defineSlotRecipe({
  className: "tooltip",
  slots: ["trigger", "positioner", "content", "arrow", "arrowTip"],
  base: {
    content: {
      ...floating,
      zIndex: "tooltip",
      fontSize: "small",
      lineHeight: "1.4",
      px: "8",
      py: "4",
      maxW: "340px",
    },
  },
});

const menu = defineSlotRecipe({
  slots: [
    "arrow",
    "arrowTip",
    "content",
    "contextTrigger",
    "indicator",
    "item",
    "itemGroup",
    "itemGroupLabel",
    "itemIndicator",
    "itemText",
    "positioner",
    "separator",
    "trigger",
    "triggerItem",
    "itemCommand",
  ],
  base: {
    content: {
      ...floating,
      p: "4",
      minW: "130px",
    },
    item: {
      px: "10",
      py: "6",
      cursor: "default",
      _highlighted: { bg: "wetGround" },
      _disabled: { color: "soft", opacity: 0.6 },
    },
  },
});

/** The base of Chakra with nothing of its theme: the look is ours, and what is not used is not sent. */
export const system = createSystem(
  defaultBaseConfig,
  defineConfig({
    preflight: true,
    globalCss: {
      "html, body, #root": { height: "100%" },
      body: { bg: "paper", color: "ink", fontFamily: "body", fontSize: "body", lineHeight: "1.4", overflow: "hidden" },
      "*:focus-visible": { outline: "2px solid", outlineColor: "wet", outlineOffset: "1px" },
    },
    theme: {
      slotRecipes: { dialog, menu, popover, tooltip },
      tokens: {
        fontSizes: sizes({ fine: 11, small: 12, body: 13, lead: 15, part: 17, room: 19, page: 21, name: 26 }),
        /** Called by their pixels. */
        spacing: sizes({ 2: 2, 4: 4, 6: 6, 8: 8, 10: 10, 14: 14, 18: 18, 24: 24 }),
        fonts: {
          body: { value: "'IBM Plex Sans', sans-serif" },
          heading: { value: "'Source Serif 4 Variable', serif" },
        },
      },
      semanticTokens: {
        colors: {
          ...colours,
          bg: { DEFAULT: { value: "{colors.paper}" }, panel: { value: "{colors.sheet}" } },
          fg: { DEFAULT: { value: "{colors.ink}" }, muted: { value: "{colors.soft}" } },
          border: { DEFAULT: { value: "{colors.control}" } },
          quill: {
            solid: { value: "{colors.wet}" },
            contrast: { value: "{colors.wetText}" },
            fg: { value: "{colors.wet}" },
            muted: { value: "{colors.wetGround}" },
            subtle: { value: "{colors.wetGround}" },
            emphasized: { value: "{colors.wetGround}" },
            focusRing: { value: "{colors.wet}" },
            border: { value: "{colors.wet}" },
          },
        },
      },
    },
  }),
);
