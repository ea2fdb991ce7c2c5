// Files in and out.
export { BringFile } from "./BringFile";
export { ExchangeScreen } from "./ExchangeScreen";
