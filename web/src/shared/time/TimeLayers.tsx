import type { ReactNode } from "react";
import { fullDay } from "../format";
import { words } from "../words";
import type { Axis } from "./axis";
import styles from "./time.module.css";

/** The height of a row of time: that of a line of the sheet it stands beside. */
export const TIME_ROW = 28;

/** The dates over the timeline. */
export function TimeHead({ axis }: { axis: Axis }) {
  return (
    <div className={styles["time-head"]}>
      {axis.ticks
        .filter((t) => t.label)
        .map((t) => (
          <span key={t.x} className={styles.tick} style={{ left: t.x }}>
            {t.label}
          </span>
        ))}
    </div>
  );
}

interface RulesProps {
  axis: Axis;
  status: string;
  deadline: string | null;
}

/** The rules under the timeline: ticks, deadline, status date. */
export function TimeRules({ axis, status, deadline }: RulesProps) {
  return (
    <>
      {axis.ticks
        .filter((t) => t.ruled)
        .map((t) => (
          <div key={t.x} className={styles["time-tick"]} style={{ left: t.x }} />
        ))}
      {deadline && (
        <div
          className={styles["time-deadline"]}
          style={{ left: axis.x(deadline) }}
          data-tip={words.time.deadline(fullDay(deadline))}
        />
      )}
      {status && <div className={styles["time-status"]} style={{ left: axis.x(status) }} />}
    </>
  );
}

/** One row of time, at its place. */
export const TimeLine = ({ top, children }: { top: number; children: ReactNode }) => (
  <div className={styles["time-line"]} style={{ transform: `translateY(${top}px)` }}>
    {children}
  </div>
);

/** The looks of what dragging takes hold of. */
export const HANDLES = { grab: styles.grab, stretch: styles.stretch, tie: styles.tie, ties: styles.ties };
