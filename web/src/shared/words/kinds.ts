import { words as common } from "../words";
import { pairs, plural, say } from "./named";

export const words = say({
  ...common,
  kinds: {
    title: "Kinds of projects",
    edit: "Kinds of projects…",
    none: "–",
    help: "A kind decides which own fields a project and its activities have. What is changed here is changed in every project of that kind.",
    kind: "Kind",
    name: "Name",
    newKind: "New kind",
    begin: "Add",
    drop: "Delete this kind",
    field: "Field",
    addField: "New field",
    of: "Of",
    scopes: pairs([
      ["activity", "activities"],
      ["project", "the project"],
    ]),
    holds: "Holds",
    holding: pairs([
      ["text", "text"],
      ["number", "number"],
      ["date", "date"],
      ["choice", "choice"],
      ["yes_no", "yes or no"],
      ["formula", "formula"],
    ]),
    options: "Choices",
    formula: "Formula",
    inReports: "In reports",
    yesNo: pairs([
      ["yes", "yes"],
      ["no", "no"],
    ]),
    fieldsOf: (name: string) => `Fields of ${name}`,
    used: (n: number) =>
      n ? `${n} ${plural(n, { one: "project is", other: "projects are" })} of it` : "no project that you see is of it",
    followed: (n: number, left: number) =>
      `Saved. ${n} ${plural(n, { one: "project follows", other: "projects follow" })}.${left ? ` ${left} could not: what they hold does not fit.` : ""}`,
    other: "The organisation says otherwise of this kind now.",
    gone: "This kind is not on the organisation's list any more; its fields stay.",
    takeOver: "Update its fields",
  },
} as const);
