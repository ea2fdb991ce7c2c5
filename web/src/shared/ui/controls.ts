import { chakra, defineRecipe } from "@chakra-ui/react";

const boxed = { borderWidth: "1px", borderRadius: "3px", px: "10px", py: "4px" } as const;

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
        px: "7px",
        py: "2px",
        color: "soft",
        minH: "24px",
        _hover: { borderColor: "control", color: "ink" },
      },
      link: {
        color: "ink",
        minH: "24px",
        textAlign: "left",
        textDecoration: "underline",
        textDecorationColor: "control",
        textUnderlineOffset: "2px",
        _hover: { textDecorationColor: "currentColor" },
      },
      bare: { color: "inherit", textAlign: "inherit" },
    },
  },
  defaultVariants: { look: "plain" },
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
  },
  variants: {
    look: {
      plain: { borderWidth: "1px", borderColor: "control", borderRadius: "3px", px: "6px", py: "3px" },
      bare: {},
    },
  },
  defaultVariants: { look: "plain" },
});

/** What is pressed: plain, the one that seals, quiet, as a link, or bare where it looks like what it stands in. */
export const Button = chakra("button", button, { defaultProps: { type: "button" } });
/** A way to somewhere else, or a file, that looks as a button does. */
export const Anchor = chakra("a", button);
/** What is typed into; bare for ticks, choices of one and files. */
export const Input = chakra("input", field);
export const Select = chakra("select", field);
export const Textarea = chakra("textarea", field);
/** Rows and columns that are read; what is worked in is a sheet. */
export const Table = chakra("table");
