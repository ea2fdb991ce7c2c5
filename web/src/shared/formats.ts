/** How the one who is signed in writes numbers and dates. Set before anything of theirs is drawn. */
export interface Formats {
  /** The sign before decimals. */
  decimal: string;
  month_first: boolean;
  /** The first day of a week: mon, sat, sun. */
  first_day: string;
}

/** The formats of the book, and of whoever has chosen no others. */
export const BOOK: Formats = { decimal: ".", month_first: false, first_day: "mon" };

let own = BOOK;

export const formats = () => own;
export const setFormats = (next: Formats) => {
  own = next;
};

/** What a request says of the formats in which its texts were typed. */
export const told = ({ decimal, month_first, first_day }: Formats) =>
  `${decimal === "," ? "comma" : "point"} ${month_first ? "month" : "day"} ${first_day}`;

const DAYS = ["sun", "mon", "tue", "wed", "thu", "fri", "sat"];
/** Where the week begins, as Date counts its days. */
export const firstDay = () => Math.max(DAYS.indexOf(own.first_day), 0);

/** A number as it is written in the book, with one's own sign before decimals; any other text as it is. */
export const asTyped = (text: string) =>
  own.decimal !== "." && /^[-+\u2212]?[\d\u00a0 ]*\.\d+( ?(%|[a-z]+))?$/.test(text)
    ? text.replace(".", own.decimal)
    : text;

/** A number that was typed; NaN where it is none. */
export function numberOf(text: string): number {
  const bare = text.replace(/[\s\u00a0\u202f']/g, "").replace("\u2212", "-");
  if (!bare) return Number.NaN;
  if (own.decimal === "," && /^[+-]?[1-9]\d{0,2}(\.\d{3})+(,\d*)?$/.test(bare))
    return Number(bare.replaceAll(".", "").replace(",", "."));
  if (/^[+-]?[1-9]\d{0,2}(,\d{3})+(\.\d+)?$/.test(bare) && own.decimal === ".") return Number(bare.replaceAll(",", ""));
  return Number(bare.replace(",", "."));
}
