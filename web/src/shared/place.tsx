import {
  createContext,
  type Dispatch,
  type ReactNode,
  type SetStateAction,
  useCallback,
  useContext,
  useMemo,
  useState,
} from "react";
import type { Schemas } from "../api";

/** What a figure can belong to. */
type Money = "month" | "order" | "reserve" | "baseline";
export type FigureKind = "project" | "wbs" | "activity" | "risk" | "change" | Money;

/** What the margin can speak of; a figure is of the page that is shown, or of another. */
export type Told =
  | { about: "activity"; code: string }
  | { about: "row"; id: string; code: string }
  | { about: "element"; id: string; code: string }
  | { about: "entry"; list: string; id: string }
  | { about: "option"; id: string; code: string }
  | { about: "finding"; check: string; code: string }
  | { about: "figure"; measure: string; kind: FigureKind; code: string; of?: string };
export type Topic = Told | null;

/** Where the person is: a project at a page, with what the frame knows of both. */
export interface Place {
  project: string;
  page: Schemas["PageOut"];
  frame: Schemas["FrameOut"];
  /** Who it is, with the role at this project. */
  person: Schemas["PersonOut"];
  /** The role in the organisation, for what the organisation keeps. */
  everywhere: string;
  mayPost: boolean;
  tell: Dispatch<SetStateAction<Topic>>;
  /** Looks for an activity, or for another row that has a code, and for a column of it. */
  seek: (code: string, key?: string, of?: Sought["of"]) => void;
  setEffect: (effect: Schemas["Effect"] | null) => void;
}

/** What was looked for, and the column of it. */
export interface Sought {
  of: "activity" | "resource" | "order" | "reserve" | "element";
  code: string;
  key?: string;
}

const Context = createContext<Place | null>(null);
/** What changes with every step of the cursor or entry stands apart, so that only those are drawn again who show it. */
const TopicContext = createContext<Topic>(null);
const SoughtContext = createContext<Sought | null>(null);
const EffectContext = createContext<Schemas["Effect"] | null>(null);

interface Given {
  project: string;
  page: Schemas["PageOut"];
  frame: Schemas["FrameOut"];
  person: Schemas["PersonOut"];
  everywhere: string;
  children: ReactNode;
}

export function PlaceProvider({ children, project, page, frame, person, everywhere }: Given) {
  const [topic, tell] = useState<Topic>(null);
  const [sought, setSought] = useState<Sought | null>(null);
  const [effect, setEffect] = useState<Schemas["Effect"] | null>(null);
  const seek = useCallback((code: string, key?: string, of: Sought["of"] = "activity") => {
    setSought({ of, code, key });
    if (of === "activity") tell({ about: "activity", code });
  }, []);
  const mayPost = page.state === "wet" && person.role !== "reader";
  const place = useMemo(
    () => ({ project, page, frame, person, everywhere, mayPost, tell, seek, setEffect }),
    [project, page, frame, person, everywhere, mayPost, seek],
  );
  return (
    <Context.Provider value={place}>
      <TopicContext.Provider value={topic}>
        <SoughtContext.Provider value={sought}>
          <EffectContext.Provider value={effect}>{children}</EffectContext.Provider>
        </SoughtContext.Provider>
      </TopicContext.Provider>
    </Context.Provider>
  );
}

export function usePlace(): Place {
  const place = useContext(Context);
  if (!place) throw new Error("usePlace stands outside a project");
  return place;
}

/** What the margin speaks of. */
export const useTopic = () => useContext(TopicContext);
/** The activity, or the row of another kind, that was looked for last; the sheet goes to it. */
export function useSought(of: Sought["of"] = "activity") {
  const sought = useContext(SoughtContext);
  return sought?.of === of ? sought : null;
}
/** What the last entry did. */
export const useLastEffect = () => useContext(EffectContext);

/** A figure that opens its working in the margin. */
export function useOpenFigure() {
  const { tell } = usePlace();
  return useCallback(
    (measure: string, kind: FigureKind, code: string, of?: string) =>
      tell({ about: "figure", measure, kind, code, of }),
    [tell],
  );
}
