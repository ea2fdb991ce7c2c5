import type { ReactNode } from "react";
import { ErrorBoundary } from "react-error-boundary";
import { Notice } from "./Notice";
import { Button } from "./ui";
import { words } from "./words";

/** What stands in the place of a part that could not be drawn: everything round it goes on. */
const Fault = () => (
  <Notice bad>
    {words.frame.fault}{" "}
    <Button look="link" onClick={() => window.location.reload()}>
      {words.frame.again}
    </Button>
  </Notice>
);

/** Keeps a fault in drawing a part from taking what is round it along; tried again when what it shows is another. */
export const Guard = ({ of = "", children }: { of?: string; children: ReactNode }) => (
  <ErrorBoundary FallbackComponent={Fault} resetKeys={[of]} onError={(error) => console.warn(error)}>
    {children}
  </ErrorBoundary>
);
