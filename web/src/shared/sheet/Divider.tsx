import { words } from "../words";
import { cx } from "./style";

const STEP = 24;
const LEAST = 200;

/** The edge between a sheet and what stands beside it, dragged or moved with the arrows. */
export function Divider({ split, setSplit }: { split: number; setSplit: (width: number) => void }) {
  return (
    <div
      role="separator"
      aria-orientation="vertical"
      aria-label={words.sheet.split}
      aria-valuenow={split}
      aria-valuemin={LEAST}
      aria-valuemax={1600}
      tabIndex={0}
      className={cx("sheet-divider")}
      style={{ left: split - 4 }}
      onKeyDown={(event) => {
        const by = event.key === "ArrowLeft" ? -STEP : event.key === "ArrowRight" ? STEP : 0;
        if (!by) return;
        setSplit(Math.max(LEAST, split + by));
        event.preventDefault();
        event.stopPropagation();
      }}
      onPointerDown={(event) => {
        const from = event.clientX;
        const target = event.currentTarget;
        target.setPointerCapture(event.pointerId);
        target.onpointermove = (e) => setSplit(Math.max(LEAST, split + e.clientX - from));
        target.onpointerup = () => {
          target.onpointermove = null;
        };
      }}
    />
  );
}
