import { Link } from "react-router";
import { format, useOptions, usePlace } from "../../shared";
import { Space } from "../../shared/ui";
import { words } from "../../shared/words/plan";

const w = words.plan.option;

/** What stands over the sheet of an option: which one it is, what it does so far, and the way back. */
export function OptionHead({ option }: { option: number }) {
  const { project, page } = usePlace();
  const board = useOptions(project);
  const found = board.data?.options.find((o) => o.id === option);
  const stands = found?.standing;
  return (
    <div data-head="" role="status">
      <b>{found ? w.name(found.code, found.name) : w.option}</b>
      <span>{w.apart}</span>
      <Space />
      {found && stands && (
        <span>
          {w.does(
            format.fullDay(stands.finish),
            format.drift(-(found.gained_days ?? 0)),
            stands.eac ? format.money(stands.eac, true) : "",
            board.data?.currency ?? "",
          )}
        </span>
      )}
      <Link to={`/${encodeURIComponent(project)}/${encodeURIComponent(page.code)}/options`}>{w.back}</Link>
    </div>
  );
}
