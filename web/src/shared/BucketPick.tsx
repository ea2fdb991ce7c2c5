import { Pick } from "./Entry";
import { oneOf } from "./groups";
import { words } from "./words/resources";

const w = words.resources;
export type Bucket = "day" | "week" | "month";
const BUCKETS: [Bucket, ...Bucket[]] = ["day", "week", "month"];

/** By what lengths of time a load is shown. */
export function BucketPick({ bucket, choose }: { bucket: Bucket; choose: (bucket: Bucket) => void }) {
  return (
    <Pick
      bare
      label={w.by}
      value={bucket}
      options={[
        ["day", w.day],
        ["week", w.week],
        ["month", w.month],
      ]}
      write={(b) => choose(oneOf(BUCKETS, b))}
    />
  );
}
