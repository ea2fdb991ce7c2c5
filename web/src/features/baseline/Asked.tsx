import { useState } from "react";
import { client, type Schemas, take } from "../../api";
import { format, usePlace } from "../../shared";
import type { useWrites } from "../../shared/book";
import { Button, Input, RowOf, Soft, Why, Working } from "../../shared/ui";
import { words } from "../../shared/words/baseline";

const w = words.baselines.asked;

interface Props {
  shelf: Schemas["ShelfOut"];
  writes: ReturnType<typeof useWrites>;
  open: boolean;
}

/** Baselines that analysts ask for: an approver takes one by one press, or sends it back with a word. */
export const Asked = ({ shelf, writes, open }: Props) =>
  shelf.asked.map((ask) => <One key={ask.id} ask={ask} shelf={shelf} writes={writes} open={open} />);

function One({ ask, shelf, writes, open }: Props & { ask: Schemas["AskedBaseline"] }) {
  const { project } = usePlace();
  const [text, setText] = useState("");
  const [lacks, setLacks] = useState(false);
  const answer = (taken: boolean) =>
    writes.write((revision) =>
      take(
        client.POST("/api/projects/{project}/baselines/asked/{id}", {
          params: { path: { project, id: ask.id } },
          body: { revision, take: taken, text },
        }),
      ),
    );
  const back = () => {
    setLacks(!ask.mine && !text.trim());
    if (ask.mine || text.trim()) answer(false);
  };
  return (
    <Working role="note">
      <b>{ask.state === "open" ? w.asks(ask.by, ask.name) : w.declined(ask.name)}</b>{" "}
      <Soft>{format.moment(ask.at)}</Soft>
      <div>{ask.state === "open" ? ask.reason : ask.answer}</div>
      {ask.rows && <Soft as="div">{w.part(ask.rows.length)}</Soft>}
      {ask.state === "open" && ask.moved_on && <Soft as="div">{w.moved}</Soft>}
      {ask.state === "open" && open && (shelf.may_approve || ask.mine) && (
        <RowOf>
          {shelf.may_approve && (
            <Button look="seal" onClick={() => answer(true)}>
              {w.take}
            </Button>
          )}
          {!ask.mine && (
            <Input
              aria-label={w.why}
              placeholder={w.why}
              value={text}
              aria-invalid={lacks || undefined}
              onChange={(e) => setText(e.target.value)}
            />
          )}
          <Button onClick={back}>{ask.mine ? w.withdraw : w.back}</Button>
          {lacks && <Why role="alert">{w.lacks}</Why>}
        </RowOf>
      )}
    </Working>
  );
}
