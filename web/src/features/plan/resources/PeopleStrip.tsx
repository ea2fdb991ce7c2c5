import { Bar, Button, Soft, Space } from "../../../shared/ui";
import { words } from "../../../shared/words/resources";
import type { Row } from "../row";
import { under, useDragOnto } from "../useDragOnto";

const w = words.resources.choose;
type Resource = { id: string; name: string };

interface Props {
  resources: Resource[];
  rows: Map<string, Row>;
  assign: (resource: string, row: string) => void;
  shut: () => void;
}

/** The resources of the project, each to be dragged onto a row of the plan. Without a mouse the same is done by choosing people. */
export function PeopleStrip({ resources, rows, assign, shut }: Props) {
  const { held, grip } = useDragOnto<Resource, Row>(
    (event) => {
      const row = rows.get(under(event, "[data-id]")?.getAttribute("data-id") ?? "");
      return row && row.kind !== "wbs" && !row.pending ? row : null;
    },
    (resource, row) => assign(resource.id, row.id),
  );
  return (
    <Bar kind="bulk" role="group" aria-label={w.strip}>
      {/* Of one width and one line, so that no row moves under the hand. */}
      <Soft width="300px" overflow="hidden" textOverflow="ellipsis" whiteSpace="nowrap">
        {held ? `${held.what.name} → ${held.under ? `${held.under.code} ${held.under.name}` : "…"}` : w.strip}
      </Soft>
      {resources.map((resource) => (
        <Button key={resource.id} tabIndex={-1} aria-label={w.drag(resource.name)} {...grip(resource)}>
          {resource.name}
        </Button>
      ))}
      <Space />
      <Button onClick={shut}>{words.frame.shut}</Button>
    </Bar>
  );
}
