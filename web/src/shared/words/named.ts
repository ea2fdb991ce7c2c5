import { language } from "./language";

/** Words by keys that come from elsewhere, so that not each need be known here. */
export const named = (words: Record<string, string>) => words;

/** Values that are chosen from, each with its word, in the order in which they are offered. */
export const pairs = (list: [value: string, word: string][]) => list;

let rules: Intl.PluralRules | undefined;

/** The form that a count takes, by the rules of the language; where it has no form of its own, that of all others. */
export function plural(n: number, forms: Partial<Record<Intl.LDMLPluralRule, string>> & { other: string }): string {
  rules ??= new Intl.PluralRules(language());
  return forms[rules.select(n)] ?? forms.other;
}

/** A catalogue in whatever language: the same keys, the same values in each sentence. */
export type InWords<T> = T extends string
  ? string
  : T extends (...values: infer V) => string
    ? (...values: V) => string
    : { readonly [K in keyof T]: InWords<T[K]> };

let spoken: object = {};

/** Has all catalogues that are loaded from here on say another language's words. */
export const speak = (language: object) => {
  spoken = language;
};

/** The words of a room in the language that is spoken; the English ones where it has none of its own. */
export const say = <T extends object>(english: T): T =>
  Object.assign({}, english, Object.fromEntries(Object.entries(spoken).filter(([key]) => key in english)));
