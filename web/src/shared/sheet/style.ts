import styles from "./sheet.module.css";

/** The classes that are said, as this sheet's own style sheet has them; what is not said is left out. */
export const cx = (...names: (string | false | null | undefined)[]) =>
  names
    .flatMap((n) => (n ? n.split(" ") : []))
    .map((n) => styles[n] ?? n)
    .join(" ");
