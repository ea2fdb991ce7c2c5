import { lazy, Suspense, useState } from "react";
import { words } from "../../shared";
import { Button } from "../../shared/ui";

const GuideDialog = lazy(() => import("./GuideDialog").then((m) => ({ default: m.GuideDialog })));

/** Opens the guide at the page of the room that one is in. */
export function Guide({ room }: { room: string }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button look="quiet" onClick={() => setOpen(true)}>
        {words.frame.guide}
      </Button>
      {open && (
        <Suspense fallback={null}>
          <GuideDialog room={room} shut={() => setOpen(false)} />
        </Suspense>
      )}
    </>
  );
}
