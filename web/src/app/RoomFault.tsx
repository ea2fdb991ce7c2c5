import { Notice, words } from "../shared";
import { Button } from "../shared/ui";

/** What stands in the place of a room that could not be drawn: the frame and the other rooms go on. */
export function RoomFault() {
  return (
    <Notice bad>
      {words.frame.fault}{" "}
      <Button look="link" onClick={() => window.location.reload()}>
        {words.frame.again}
      </Button>
    </Notice>
  );
}
