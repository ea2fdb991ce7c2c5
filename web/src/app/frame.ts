import { defineRecipe } from "@chakra-ui/react";
import { Link, NavLink } from "react-router";
import { styled } from "../shared/ui";

/** The way past the frame for who goes by keys. */
export const Skip = styled("a", {
  base: {
    position: "absolute",
    left: "-999px",
    top: "4px",
    zIndex: 20,
    bg: "sheet",
    p: "6",
    _focus: { left: "4px" },
  },
});
/** The period rail. */
export const Leaves = styled("nav", {
  base: {
    display: "flex",
    flex: 1,
    minW: 0,
    alignItems: "flex-end",
    gap: "4",
    overflowX: "auto",
    scrollbarWidth: "none",
    px: "4",
  },
});
/** A page on the rail: filled where it is dry, outlined in wet ink where it is open. */
export const Leaf = styled(
  Link,
  defineRecipe({
    base: {
      flex: "none",
      width: "56px",
      height: "38px",
      display: "flex",
      flexDirection: "column",
      alignItems: "center",
      justifyContent: "center",
      fontSize: "fine",
      lineHeight: 1.25,
      borderWidth: "1px",
      borderColor: "ruleStrong",
      borderBottomWidth: 0,
      bg: "leaf",
      _focusVisible: { outlineOffset: "-3px" },
    },
    variants: {
      wet: {
        true: {
          bg: "sheet",
          borderWidth: "2px",
          borderBottomWidth: 0,
          borderColor: "wet",
          color: "wet",
          fontWeight: 600,
        },
      },
      chosen: { true: { height: "44px", fontWeight: 600, bg: "sheet", boxShadow: "inset 0 3px 0 currentColor" } },
    },
  }),
  { forwardProps: ["to", "title"] },
);
export const LeafMark = styled("span", {
  base: { display: "inline-flex", gap: "4", alignItems: "center", "& em": { fontStyle: "normal", fontWeight: 400 } },
});
/** A room in the list at the left. */
export const Station = styled(
  NavLink,
  {
    base: {
      display: "block",
      py: "8",
      px: "14",
      borderLeftWidth: "3px",
      borderColor: "transparent",
      _hover: { bg: "leaf" },
      _currentPage: { borderLeftColor: "ink", bg: "sheet", fontWeight: 600 },
    },
  },
  { forwardProps: ["to", "title"] },
);
/** What was found, under the find box. */
export const Found = styled("div", {
  base: {
    position: "absolute",
    right: 0,
    top: "32px",
    width: "330px",
    zIndex: 12,
    p: "4",
    bg: "sheet",
    borderWidth: "1px",
    borderColor: "ruleStrong",
    boxShadow: "0 3px 10px rgb(0 0 0 / 18%)",
    _hidden: { display: "none" },
    "& > div": { py: "6", px: "8", cursor: "pointer" },
    "& > [aria-selected=true]": { bg: "leaf" },
    "& small": { color: "soft" },
  },
});
