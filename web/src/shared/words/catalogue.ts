import type { words as common } from "../words";
import type { words as baseline } from "./baseline";
import type { words as budget } from "./budget";
import type { words as buffers } from "./buffers";
import type { words as checks } from "./checks";
import type { words as corrections } from "./corrections";
import type { words as costs } from "./costs";
import type { words as desk } from "./desk";
import type { words as exchange } from "./exchange";
import type { words as feeds } from "./feeds";
import type { words as history } from "./history";
import type { words as hours } from "./hours";
import type { words as keys } from "./keys";
import type { words as kinds } from "./kinds";
import type { words as marks } from "./marks";
import type { InWords } from "./named";
import type { words as options } from "./options";
import type { words as people } from "./people";
import type { words as plan } from "./plan";
import type { words as planned } from "./planned";
import type { words as posting } from "./posting";
import type { words as report } from "./report";
import type { words as resources } from "./resources";
import type { signs } from "./signs";
import type { words as status } from "./status";
import type { words as timeline } from "./timeline";
import type { words as value } from "./value";

/** All that the pages say, by room: what a file of another language has to have. */
export type Catalogue = InWords<
  typeof common &
    typeof baseline &
    typeof budget &
    typeof buffers &
    typeof checks &
    typeof corrections &
    typeof costs &
    typeof desk &
    typeof exchange &
    typeof feeds &
    typeof history &
    typeof hours &
    typeof keys &
    typeof kinds &
    typeof marks &
    typeof options &
    typeof people &
    typeof plan &
    typeof planned &
    typeof posting &
    typeof report &
    typeof resources & { signs: typeof signs } & typeof status &
    typeof timeline &
    typeof value
>;
