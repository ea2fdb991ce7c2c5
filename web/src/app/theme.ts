import { createSystem, defaultConfig, defineConfig } from "@chakra-ui/react";

/** Paper and ink by day, slate and chalk by night. Wet ink appears only where something is open to change. */
const pair = (light: string, dark: string) => ({ value: { base: light, _dark: dark } });

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

export const system = createSystem(
  defaultConfig,
  defineConfig({
    globalCss: {
      "html, body, #root": { height: "100%" },
      body: { bg: "paper", color: "ink", fontFamily: "body", fontSize: "13px", lineHeight: "1.4", overflow: "hidden" },
      "*:focus-visible": { outline: "2px solid", outlineColor: "wet", outlineOffset: "1px" },
    },
    theme: {
      tokens: {
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
