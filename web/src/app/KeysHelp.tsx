import { lazy, Suspense, useState } from "react";
import { useShortcut, words } from "../shared";
import { Button } from "../shared/ui";

const KeysList = lazy(() => import("./KeysList").then((m) => ({ default: m.KeysList })));

/** `?` lists the keys. */
export function KeysHelp() {
  const [open, setOpen] = useState(false);
  useShortcut("?", () => setOpen(true));
  return (
    <>
      <Button look="quiet" data-tip={words.frame.keys} aria-label={words.frame.keys} onClick={() => setOpen(true)}>
        ?
      </Button>
      {open && (
        <Suspense fallback={null}>
          <KeysList shut={() => setOpen(false)} />
        </Suspense>
      )}
    </>
  );
}
