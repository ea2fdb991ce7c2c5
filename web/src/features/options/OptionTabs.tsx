import { PartLinks } from "../../shared/ui";
import { words } from "../../shared/words/options";

const t = words.options.tabs;
const PARTS = [
  ["options", t.board],
  ["options/proposals", t.proposals],
  ["options/levelling", t.levelling],
] as const;

/** The parts of the options room. */
export const OptionTabs = () => <PartLinks label={t.label} parts={PARTS} />;
