import { Grid } from "@chakra-ui/react";
import { firstDay, format } from "../../shared";
import { Button, type DataColumn, DataTable } from "../../shared/ui";
import { words } from "../../shared/words/plan";
import { type Calendar, DAYS } from "./CalendarsScreen";
import { type Exception, hoursOf } from "./SpecialDays";

const w = words.calendars;
const MONTHS = Array.from({ length: 12 }, (_, m) => m);

const daysOf = (year: number, month: number) => {
  const out: string[] = [];
  for (let d = new Date(Date.UTC(year, month, 1)); d.getUTCMonth() === month; d = new Date(d.getTime() + 86_400_000))
    out.push(d.toISOString().slice(0, 10));
  return out;
};

type Week = (string | null)[];
const weekday = (day: string) => new Date(`${day}T00:00Z`).getUTCDay();

/** A year of a calendar on one page: working days plain, days off dotted, days with other hours ruled. */
export function YearPage({
  calendar,
  year,
  toggle,
}: {
  calendar: Calendar;
  year: number;
  toggle?: (day: string, known: Exception | undefined) => void;
}) {
  const exceptions = calendar.exceptions ?? [];
  /** What kind of day it is, in a word and as a sentence. */
  const dayOf = (day: string) => {
    const known = exceptions.find((e) => e.from <= day && day <= (e.to || e.from));
    const hours = known ? (known.shifts ?? []) : (calendar.week[DAYS[(weekday(day) + 6) % 7] ?? "mon"] ?? []);
    const kind = known ? (hours.length ? "special" : "holiday") : hours.length ? "work" : "off";
    const says = `${format.fullDay(day)}: ${hours.length ? hoursOf(hours) : w.off}${known?.name ? `, ${known.name}` : ""}`;
    return { known, kind, says };
  };
  return (
    <Grid
      alignItems="start"
      templateColumns="repeat(auto-fill, minmax(182px, 1fr))"
      rowGap="10"
      columnGap="14"
      maxW="900px"
      mb="10"
    >
      {MONTHS.map((m) => (
        <DataTable
          key={m}
          kind="month"
          caption={format.monthName(m)}
          rows={weeks(daysOf(year, m))}
          keyOf={(week) => week.find(Boolean) ?? ""}
          columns={DAYS.map(
            (_, i): DataColumn<Week> => ({
              tip: (week) => (week[i] ? dayOf(week[i]).says : undefined),
              more: (week) => (week[i] ? { "data-kind": dayOf(week[i]).kind } : {}),
              cell: (week) => {
                const day = week[i];
                if (!day) return null;
                const { known, says } = dayOf(day);
                if (!toggle) return Number(day.slice(8));
                return (
                  <Button
                    aria-label={says}
                    tabIndex={known ? 0 : -1}
                    onClick={() => toggle(day, known)}
                    look="bare"
                    minH="24px"
                    minW="24px"
                    width="100%"
                  >
                    {Number(day.slice(8))}
                  </Button>
                );
              },
            }),
          )}
        />
      ))}
    </Grid>
  );
}

function weeks(days: string[]): Week[] {
  const cells: Week = [...Array.from({ length: (weekday(days[0] ?? "") + 7 - firstDay()) % 7 }, () => null), ...days];
  while (cells.length % 7) cells.push(null);
  return Array.from({ length: cells.length / 7 }, (_, i) => cells.slice(i * 7, i * 7 + 7));
}
