export type Bucket = "day" | "week" | "month" | "period";
export const BUCKETS: Bucket[] = ["day", "week", "month", "period"];
