import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, take } from "../../api";
import { Bones, format, keys, Mark, Notice, useLastEffect, useOpenFigure, usePlace, words } from "../../shared";
import { Button, MarginHead, MarginTitle, Pair, Settling, Soft, Working } from "../../shared/ui";

/** The margin of an activity: what moved, its driver, its value, what each page said. */
export function ActivityNote({ topic: { code } }: { topic: { code: string } }) {
  const { project, page, frame } = usePlace();
  const latest = useLastEffect();
  const open = useOpenFigure();
  const note = useQuery({
    queryKey: keys.page(project, page.code).activity(code),
    queryFn: () =>
      take(
        client.GET("/api/projects/{project}/pages/{page}/activities/{activity}", {
          params: { path: { project, page: page.code, activity: code } },
        }),
      ),
  });
  if (note.isPending) return <Bones />;
  if (!note.data) return <Notice bad>{note.error?.message}</Notice>;
  const a = note.data;
  const effect = latest && (latest.subject === code || latest.subject === "") ? latest : null;
  const m = a.measures;
  return (
    <Box>
      <MarginTitle>{a.name}</MarginTitle>
      <Box color="soft">
        {a.code}
        {a.wbs && ` · ${a.wbs}`}
      </Box>
      <Box mt="4" display="flex" gap="6" alignItems="center">
        <Mark mark={a.mark} /> <span>{a.reasons.join(", ") || undefined}</span>
      </Box>
      {effect && effect.moved.length > 0 && <Moved />}
      {effect?.filled?.map((f) => (
        <Working key={f} mt="10">
          {f}
        </Working>
      ))}
      <MarginHead>{words.margin.dates}</MarginHead>
      <Pair dotted facts>
        <span>{words.margin.span(format.weekDay(a.start), format.weekDay(a.finish))}</span>
        <span>{format.late(a.late_days)}</span>
      </Pair>
      {a.first && a.first_late_days != null && (
        <Pair dotted facts>
          <Soft as="span">{words.frame.first(a.first, format.late(a.first_late_days))}</Soft>
        </Pair>
      )}
      <Pair dotted facts>
        <span>{words.margin.drives}</span>
        <span>{a.drivers.join(", ")}</span>
      </Pair>
      {a.total_float_days != null && (
        <Pair dotted>
          <span>{words.margin.totalFloat}</span>
          <span>{format.percent(a.total_float_days)} d</span>
        </Pair>
      )}
      {a.people.length > 0 && (
        <Pair dotted facts>
          <span>{words.margin.people}</span>
          <span>{a.people.join(", ")}</span>
        </Pair>
      )}
      {m && (
        <>
          <MarginHead>{words.margin.money(frame.baseline)}</MarginHead>
          {(["pv", "ev", "ac", "sv", "cv"] as const).map((k) => (
            <Pair key={k} dotted>
              <Button look="link" onClick={() => open(k, "activity", code)}>
                {k.toUpperCase()}
              </Button>
              <span data-tip={m.reasons[k]}>{format.money(m.figures[k])}</span>
            </Pair>
          ))}
          {m.reckoned && (
            <Pair dotted facts>
              <Soft as="span">
                <i>{words.frame.reckoned(format.money(m.reckoned))}</i>
              </Soft>
            </Pair>
          )}
        </>
      )}
      {(a.history ?? []).length > 0 && <MarginHead>{words.margin.history}</MarginHead>}
      {(a.history ?? []).map((h) => (
        <Box key={h.page} color={h.state === "wet" ? "wet" : undefined}>
          <Pair dotted>
            <span>
              {format.day(h.status)}
              {h.state === "wet" && `, ${words.frame.wet}`}
            </span>
            <span>{h.text}</span>
          </Pair>
          {h.note && (
            <Box color="soft" pt="2" pr="0" pb="4" pl="10">
              {h.note}
            </Box>
          )}
        </Box>
      ))}
    </Box>
  );
}

const FEW = 5;

function Moved() {
  const effect = useLastEffect();
  const [all, setAll] = useState(false);
  const rows = effect?.moved ?? [];
  return (
    <>
      <MarginHead>{words.margin.moved}</MarginHead>
      {rows.slice(0, all ? undefined : FEW).map((r) => (
        <Pair key={r.code} dotted>
          <span>{r.name}</span>
          <Settling color={r.days > 0 ? "act" : "good"}>{format.drift(r.days)}</Settling>
        </Pair>
      ))}
      {!all && rows.length > FEW && (
        <Button look="link" onClick={() => setAll(true)}>
          {words.margin.more(rows.length - FEW)}
        </Button>
      )}
    </>
  );
}
