import type { ComponentProps, ReactNode } from "react";
import { cx } from "./style";

/* What rooms draw in the cells of a sheet, and over it. */

/** The text of a cell, cut where it is too long. */
export const CellText = (props: ComponentProps<"span">) => <span className={cx("text")} {...props} />;
/** What a cell asks for. */
export const Ask = ({ children }: { children: ReactNode }) => <span className={cx("ask")}>{children}</span>;
/** What is said of a row beside its name. */
export const Ahead = (props: ComponentProps<"span">) => <span className={cx("ahead")} {...props} />;
/** The place before a name, so that all names begin alike. */
export const LeadBox = ({ children }: { children?: ReactNode }) => <i className={cx("lead")}>{children}</i>;
/** Folds and opens what lies in a row. */
export const FoldButton = (props: ComponentProps<"button">) => (
  <button type="button" tabIndex={-1} className={cx("lead")} {...props} />
);
/** Where rows that are dragged would be put down. */
export const Landing = ({ style }: Pick<ComponentProps<"div">, "style">) => (
  <div className={cx("sheet-landing")} data-landing="" style={style} />
);
/** What is said over a sheet: that it is empty, or can't be changed. */
export const SheetSays = ({ at, children }: { at: "head" | "foot"; children: ReactNode }) => (
  <div className={cx("says", `at-${at}`)} data-says={at}>
    {children}
  </div>
);
