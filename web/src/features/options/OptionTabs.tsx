import { NavLink, useParams } from "react-router";
import { Parts } from "../../shared/ui";
import { words } from "../../shared/words/options";

const t = words.options.tabs;
const TABS = [
  ["options", t.board],
  ["options/proposals", t.proposals],
  ["options/levelling", t.levelling],
] as const;

/** The parts of the options room. */
export function OptionTabs() {
  const { project = "", page = "" } = useParams();
  const at = `/${encodeURIComponent(project)}/${encodeURIComponent(page)}/`;
  return (
    <Parts as="nav" aria-label={t.label}>
      {TABS.map(([to, word]) => (
        <NavLink key={to} to={`${at}${to}`} end>
          {word}
        </NavLink>
      ))}
    </Parts>
  );
}
