import { room as baselines } from "../features/baseline";
import { room as budget } from "../features/budget";
import { room as buffers } from "../features/buffers";
import { room as checks } from "../features/checks";
import { room as exchange } from "../features/exchange";
import { room as marks } from "../features/marks";
import { room as options } from "../features/options";
import { room as plan } from "../features/plan";
import { room as posting } from "../features/posting";
import { room as report } from "../features/report";
import { room as timeline } from "../features/timeline";
import { room as value } from "../features/value";

/** The rooms, in the order of the work. */
export const ROOMS = [
  plan,
  budget,
  baselines,
  posting,
  checks,
  value,
  marks,
  timeline,
  options,
  buffers,
  report,
  exchange,
];
