import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, Problem, take } from "../../api";
import { ActionMenu, keys, Modal } from "../../shared";
import { Button, FormLine, Input, Soft, Why } from "../../shared/ui";
import { words } from "../../shared/words/desk";
import type { Project } from "./useDeskLook";

const w = words.desk.standing;

/** What can be done with a project as a whole: its group, retiring it, making a copy real, deleting it. */
export function Standing({ project: p }: { project: Project }) {
  const queries = useQueryClient();
  const [asks, ask] = useState<"" | "place" | "delete">("");
  const [text, setText] = useState("");
  const [wrong, setWrong] = useState("");
  const params = { path: { project: p.code } };
  const does = async (what: () => Promise<unknown>) => {
    setWrong("");
    try {
      await what();
      ask("");
      await queries.invalidateQueries({ queryKey: keys.desk.all });
    } catch (no) {
      if (!(no instanceof Problem)) throw no;
      setWrong(no.message);
      if (asks === "") ask("delete");
    }
  };
  const stand = (standing: "real" | "retired") =>
    does(() => take(client.POST("/api/projects/{project}/standing", { params, body: { standing } })));
  const open = (what: "place" | "delete") => {
    setText(what === "place" ? (p.place ?? "") : "");
    setWrong("");
    ask(what);
  };
  const items = [
    { word: w.place, act: () => open("place") },
    ...(p.may_stand && p.standing === "what_if" ? [{ word: w.makeReal, act: () => stand("real") }] : []),
    ...(p.may_stand && p.standing === "retired" ? [{ word: w.back, act: () => stand("real") }] : []),
    ...(p.may_stand && p.standing !== "retired" ? [{ word: w.retire, act: () => stand("retired") }] : []),
    ...(p.may_stand ? [{ word: w.remove, act: () => open("delete") }] : []),
  ];
  const go = () =>
    does(() =>
      asks === "place"
        ? take(client.PUT("/api/projects/{project}/place", { params, body: { place: text } }))
        : take(client.POST("/api/projects/{project}/delete", { params, body: { code: text } })),
    );
  return (
    <>
      <ActionMenu label={w.label(p.name)} items={items} />
      {asks !== "" && (
        <Modal
          title={asks === "place" ? w.placeOf(p.name) : w.removeOf(p.name)}
          does={
            <Button look="seal" onClick={go}>
              {asks === "place" ? w.put : w.removeNow}
            </Button>
          }
          shut={() => ask("")}
        >
          <Soft as="p">{asks === "place" ? w.placeHelp : w.removeHelp}</Soft>
          <FormLine as="label">
            <span>{asks === "place" ? w.group : w.typeCode(p.code)}</span>
            <Input
              value={text}
              aria-invalid={wrong !== "" || undefined}
              onChange={(e) => setText(e.target.value)}
              onKeyDown={(e) => e.key === "Enter" && go()}
            />
          </FormLine>
          {wrong && (
            <Why role="alert" as="p">
              {wrong}
            </Why>
          )}
        </Modal>
      )}
    </>
  );
}
