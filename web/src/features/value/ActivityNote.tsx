import { Box, Heading } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, take } from "../../api";
import { format, Mark, Notice, useOpenFigure, usePlace, words } from "../../shared";
import { Button } from "../../shared/ui";

/** The margin of an activity: what moved, its driver, its value, what each page said. */
export function ActivityNote({ code }: { code: string }) {
  const { project, page, frame, effect: latest } = usePlace();
  const open = useOpenFigure();
  const note = useQuery({
    queryKey: [project, page.code, "activity", code],
    queryFn: () =>
      take(
        client.GET("/api/projects/{project}/pages/{page}/activities/{activity}", {
          params: { path: { project, page: page.code, activity: code } },
        }),
      ),
  });
  if (note.isPending) return <Notice>{words.frame.loading}</Notice>;
  if (note.isError) return <Notice bad>{note.error.message}</Notice>;
  const a = note.data;
  const effect = latest && (latest.subject === code || latest.subject === "") ? latest : null;
  const m = a.measures;
  return (
    <Box>
      <Heading as="h2" className="margin-title">
        {a.name}
      </Heading>
      <Box color="soft">
        {a.code}
        {a.wbs && ` · ${a.wbs}`}
      </Box>
      <Box mt="4px" display="flex" gap="6px" alignItems="center">
        <Mark mark={a.mark} /> <span>{a.reasons.join(", ") || undefined}</span>
      </Box>
      {effect && effect.moved.length > 0 && <Moved />}
      {effect?.filled?.map((f) => (
        <Box key={f} className="working" mt="10px">
          {f}
        </Box>
      ))}
      <h3 className="margin-head">{words.margin.dates}</h3>
      <div className="pair dotted facts">
        <span>
          {format.day(a.start)} to {format.day(a.finish)}
        </span>
        <span>{format.late(a.late_days)}</span>
      </div>
      <div className="pair dotted facts">
        <span>{words.margin.drives}</span>
        <span>{a.drivers.join(", ")}</span>
      </div>
      {a.total_float_days != null && (
        <div className="pair dotted">
          <span>Total float</span>
          <span>{format.percent(a.total_float_days)} d</span>
        </div>
      )}
      {a.people.length > 0 && (
        <div className="pair dotted facts">
          <span>{words.margin.people}</span>
          <span>{a.people.join(", ")}</span>
        </div>
      )}
      {m && (
        <>
          <h3 className="margin-head">
            {words.margin.money}, against {frame.baseline ?? "no baseline"}
          </h3>
          {(["pv", "ev", "ac", "sv", "cv"] as const).map((k) => (
            <div key={k} className="pair dotted">
              <Button look="link" onClick={() => open(k, "activity", code)}>
                {k.toUpperCase()}
              </Button>
              <span title={m.reasons[k]}>{format.money(m.figures[k])}</span>
            </div>
          ))}
        </>
      )}
      {(a.history ?? []).length > 0 && <h3 className="margin-head">{words.margin.history}</h3>}
      {(a.history ?? []).map((h) => (
        <div key={h.page} className={h.state === "wet" ? "wet" : undefined}>
          <div className="pair dotted">
            <span>
              {format.day(h.status)}
              {h.state === "wet" && ", wet"}
            </span>
            <span>{h.text}</span>
          </div>
          {h.note && <div className="said">{h.note}</div>}
        </div>
      ))}
    </Box>
  );
}

const FEW = 5;

function Moved() {
  const { effect } = usePlace();
  const [all, setAll] = useState(false);
  const rows = effect?.moved ?? [];
  return (
    <>
      <h3 className="margin-head">{words.margin.moved}</h3>
      {rows.slice(0, all ? undefined : FEW).map((r) => (
        <div key={r.code} className="pair dotted settle">
          <span>{r.name}</span>
          <span className={r.days > 0 ? "late" : "early"}>{format.drift(r.days)}</span>
        </div>
      ))}
      {!all && rows.length > FEW && (
        <Button look="link" onClick={() => setAll(true)}>
          {words.margin.more(rows.length - FEW)}
        </Button>
      )}
    </>
  );
}
