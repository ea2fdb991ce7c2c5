import { useEffect } from "react";
import { words } from "../shared";
import { settleUnsent, useUnfinished, useUnsent } from "../shared/book";
import { Button, RowOf } from "../shared/ui";

/** What could not be sent yet, said where it is seen from every room; leaving with something unwritten asks. */
export function Unsent() {
  const count = useUnsent();
  const unfinished = useUnfinished();
  useEffect(() => {
    const ask = (event: BeforeUnloadEvent) => {
      if (unfinished()) event.preventDefault();
    };
    window.addEventListener("beforeunload", ask);
    return () => window.removeEventListener("beforeunload", ask);
  }, [unfinished]);
  if (!count) return null;
  return (
    <RowOf role="alert" py="6" px="14" bg="paper" borderTopWidth="2px" borderColor="watch">
      {words.unsent.says(count)}
      <Button onClick={() => settleUnsent(true)}>{words.unsent.now}</Button>
      <Button look="quiet" onClick={() => settleUnsent(false)}>
        {words.unsent.stop}
      </Button>
    </RowOf>
  );
}
