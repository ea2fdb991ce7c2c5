import { defineRecipe } from "@chakra-ui/react";
import { styled } from "./styled";

const boxed = { borderWidth: "1px", borderRadius: "3px", px: "10", py: "4" } as const;

const button = defineRecipe({
  base: { cursor: "pointer", whiteSpace: "nowrap", _disabled: { cursor: "default" } },
  variants: {
    look: {
      plain: {
        ...boxed,
        borderColor: "control",
        bg: "sheet",
        color: "ink",
        _hover: { borderColor: "ink" },
        _pressed: { borderColor: "ink", fontWeight: 600 },
        _disabled: { color: "soft", opacity: 0.75, borderColor: "ruleStrong" },
      },
      seal: {
        ...boxed,
        borderColor: "wet",
        bg: "wet",
        color: "wetText",
        fontWeight: 500,
        _disabled: { opacity: 0.6 },
      },
      quiet: {
        borderWidth: "1px",
        borderColor: "transparent",
        borderRadius: "3px",
        px: "8",
        py: "2",
        color: "soft",
        minH: "24px",
        _hover: { borderColor: "control", color: "ink" },
      },
      link: {
        color: "ink",
        minH: "24px",
        minW: "24px",
        textAlign: "left",
        textDecoration: "underline",
        textDecorationColor: "control",
        textUnderlineOffset: "2px",
        _hover: { textDecorationColor: "currentColor" },
      },
      bare: { color: "inherit", textAlign: "inherit" },
      /** One of a list at the side. */
      side: {
        display: "block",
        width: "100%",
        textAlign: "left",
        whiteSpace: "normal",
        px: "8",
        py: "6",
        borderLeftWidth: "3px",
        borderLeftColor: "transparent",
        borderBottomWidth: "1px",
        borderBottomColor: "rule",
        "&[aria-current=true]": { borderLeftColor: "ink", fontWeight: 600 },
      },
      /** A figure that opens its working. */
      figure: {
        color: "inherit",
        maxW: "100%",
        overflow: "hidden",
        textOverflow: "ellipsis",
        fontVariantNumeric: "tabular-nums",
        _hover: { textDecoration: "underline", textUnderlineOffset: "2px" },
      },
      /** A total of the balance line. */
      total: {
        color: "inherit",
        px: "10",
        py: "4",
        "@media (max-width: 900px)": { px: "6" },
        borderRightWidth: "1px",
        borderColor: "rule",
        flex: "none",
        fontVariantNumeric: "tabular-nums",
        _hover: { bg: "leaf" },
      },
    },
  },
  defaultVariants: { look: "plain" },
});

const th = {
  textAlign: "left",
  fontWeight: 600,
  fontSize: "fine",
  color: "soft",
  borderBottomWidth: "1px",
  borderColor: "ruleStrong",
  py: "4",
  px: "6",
  verticalAlign: "bottom",
} as const;
const table = defineRecipe({
  base: {
    borderCollapse: "collapse",
    fontVariantNumeric: "tabular-nums",
    "& [data-num]": { textAlign: "right", fontVariantNumeric: "tabular-nums", whiteSpace: "nowrap" },
  },
  variants: {
    kind: {
      read: {
        width: "100%",
        "& thead > tr > *": th,
        "& td, & tbody th": {
          borderBottomWidth: "1px",
          borderColor: "rule",
          py: "4",
          px: "6",
          verticalAlign: "baseline",
        },
        "& [data-date]": { whiteSpace: "nowrap" },
        "& caption": { textAlign: "left", pt: "8", px: "0", pb: "2", fontWeight: 600 },
        "& a": { textDecoration: "underline", textDecorationColor: "control", textUnderlineOffset: "2px" },
        "& tr[data-refused] td": { bg: "act/7" },
        "& tbody th": { textAlign: "left", fontWeight: 400, whiteSpace: "nowrap" },
        "& tr[data-wbs] > *": { fontWeight: 600 },
      },
      month: {
        fontSize: "fine",
        "& caption": { textAlign: "left", fontWeight: 600 },
        "& td": { width: "22px", height: "20px", textAlign: "center" },
        "& [data-kind=off]": { color: "soft" },
        "& [data-kind=holiday]": { outline: "1px dotted", outlineColor: "act", outlineOffset: "-2px", color: "act" },
        "& [data-kind=special]": { borderBottomWidth: "2px", borderColor: "wet" },
      },
    },
  },
  defaultVariants: { kind: "read" },
});

const field = defineRecipe({
  base: {
    bg: "sheet",
    color: "ink",
    font: "inherit",
    minW: 0,
    _disabled: { color: "soft", opacity: 1 },
    _invalid: { borderColor: "act" },
    _placeholder: { color: "soft", opacity: 1 },
    "&::file-selector-button": {
      ...boxed,
      borderColor: "control",
      bg: "sheet",
      color: "ink",
      cursor: "pointer",
      mr: "8",
    },
  },
  variants: {
    look: {
      plain: { borderWidth: "1px", borderColor: "control", borderRadius: "3px", px: "6", py: "4" },
      bare: {},
    },
  },
  defaultVariants: { look: "plain" },
});

/** What is pressed: plain, the one that seals, quiet, as a link, or bare where it looks like what it stands in. */
export const Button = styled("button", button, { defaultProps: { type: "button" } });
/** A way to somewhere else, or a file, that looks as a button does. */
export const Anchor = styled("a", button);
/** What is typed into; bare for ticks, choices of one and files. */
export const Input = styled("input", field);
export const Select = styled("select", field);
export const Textarea = styled("textarea", field);
/** Rows and columns that are read; what is worked in is a sheet. */
export const Table = styled("table", table);
