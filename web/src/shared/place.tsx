import { createContext, type ReactNode, useCallback, useContext, useMemo, useState } from "react";
import type { Schemas } from "../api";

/** What the margin speaks of. */
export type Topic =
  | { about: "activity"; code: string }
  | { about: "row"; id: string; code: string }
  | { about: "figure"; measure: string; kind: "project" | "wbs" | "activity"; code: string }
  | null;

/** Where the person is: a project at a page, with what the frame knows of both. */
export interface Place {
  project: string;
  page: Schemas["PageOut"];
  frame: Schemas["FrameOut"];
  person: Schemas["PersonOut"];
  mayPost: boolean;
  topic: Topic;
  tell: (topic: Topic) => void;
  /** The activity that was looked for last; the sheet goes to it. */
  sought: { code: string } | null;
  seek: (code: string) => void;
  effect: Schemas["Effect"] | null;
  setEffect: (effect: Schemas["Effect"] | null) => void;
}

const Context = createContext<Place | null>(null);

interface Given {
  project: string;
  page: Schemas["PageOut"];
  frame: Schemas["FrameOut"];
  person: Schemas["PersonOut"];
  children: ReactNode;
}

export function PlaceProvider({ children, project, page, frame, person }: Given) {
  const [topic, tell] = useState<Topic>(null);
  const [sought, setSought] = useState<{ code: string } | null>(null);
  const [effect, setEffect] = useState<Schemas["Effect"] | null>(null);
  const seek = useCallback((code: string) => {
    setSought({ code });
    tell({ about: "activity", code });
  }, []);
  const mayPost = page.state === "wet" && person.role !== "reader";
  const place = useMemo(
    () => ({ project, page, frame, person, mayPost, topic, tell, sought, seek, effect, setEffect }),
    [project, page, frame, person, mayPost, topic, sought, seek, effect],
  );
  return <Context.Provider value={place}>{children}</Context.Provider>;
}

export function usePlace(): Place {
  const place = useContext(Context);
  if (!place) throw new Error("usePlace stands outside a project");
  return place;
}

/** A figure that opens its working in the margin. */
export function useOpenFigure() {
  const { tell } = usePlace();
  return useCallback(
    (measure: string, kind: "project" | "wbs" | "activity", code: string) =>
      tell({ about: "figure", measure, kind, code }),
    [tell],
  );
}
