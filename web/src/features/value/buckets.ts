export type Bucket = "day" | "week" | "month" | "period";
export const BUCKETS: [Bucket, ...Bucket[]] = ["week", "day", "month", "period"];
