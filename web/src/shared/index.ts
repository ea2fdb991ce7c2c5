// What two or more rooms use: formats, words, marks, the place, shared reads and small parts.
export { ActionMenu } from "./ActionMenu";
export { Bones } from "./Bones";
export { type Bucket, BucketPick } from "./BucketPick";
export { AmountCurve, Curve, type CurveLine, LoadChart, LoadTable, SmallLines, type Spot, when } from "./chart";
export { Entry, Pick } from "./Entry";
export { FormDialog } from "./FormDialog";
export { Band, Frame } from "./Frame";
export { FormChoice, FormField, Refused, useForm, wrongOf } from "./form";
export * as format from "./format";
export { asTyped, firstDay, numberOf, setFormats } from "./formats";
export { Guard } from "./Guard";
export { groupBy, oneOf } from "./groups";
export { forgetLooks, useAddressed, useKept, useStanding } from "./kept";
export { keys, partOf } from "./keys";
export { LookAhead } from "./LookAhead";
export { Mark } from "./Mark";
export { Modal } from "./Modal";
export { Notice } from "./Notice";
export { Pictures } from "./Pictures";
export { Popup } from "./Popup";
export { keepFile } from "./picture";
export {
  type FigureKind,
  type Place,
  PlaceProvider,
  type Sought,
  type Told,
  type Topic,
  useLastEffect,
  useOpenFigure,
  usePlace,
  useSought,
  useTopic,
} from "./place";
export {
  namesOf,
  postingOf,
  projectsOf,
  reportOf,
  templates,
  useBalance,
  useCurve,
  useDesk,
  useFindings,
  useFrame,
  useOptions,
  useSession,
  useSigns,
} from "./queries";
export type { Room } from "./room";
export { Sign } from "./Sign";
export { SUMMARY, summaryText } from "./summary";
export { tellAnswered, tellDone, tellError, tellUnread } from "./tell";
export { useShortcut } from "./useShortcut";
export { type Undoing, useUndo, useUndoKeys } from "./useUndo";
export { useAtOnce, useWhenever } from "./useWhenever";
export { useWidth } from "./useWidth";
export { words } from "./words";
