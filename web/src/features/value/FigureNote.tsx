import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { client, take } from "../../api";
import { Bones, format, keys, Notice, type Topic, useOpenFigure, usePlace, words } from "../../shared";
import { Button, MarginHead, MarginTitle, Pair, Working } from "../../shared/ui";

type FigureTopic = Extract<NonNullable<Topic>, { about: "figure" }>;

/** The working of one figure: formula, the numbers in it, the rows behind them. */
export function FigureNote({ topic }: { topic: FigureTopic }) {
  const { project, page, tell } = usePlace();
  const open = useOpenFigure();
  const { measure, kind, code } = topic;
  const of = topic.of ?? page.code;
  const working = useQuery({
    queryKey: keys.page(project, of).working(measure, kind, code),
    queryFn: () =>
      take(
        client.GET("/api/projects/{project}/pages/{page}/working", {
          params: { path: { project, page: of }, query: { measure, kind, code } },
        }),
      ),
  });
  if (working.isPending) return <Bones />;
  if (!working.data) return <Notice bad>{working.error?.message}</Notice>;
  const w = working.data;
  return (
    <Box>
      <MarginTitle>{w.title}</MarginTitle>
      <Box color="soft">
        {w.scope}. {words.margin.asOf(format.fullDay(w.status), w.baseline)}
        {w.older && words.margin.onceCalled(w.older)}
      </Box>
      <Working mt="10">
        <div>{w.formula}</div>
        {w.operands.map((o) => (
          <Pair key={o.label}>
            {o.measure ? (
              <Button look="link" onClick={() => open(o.measure ?? "", kind, code, of)}>
                {o.label}
              </Button>
            ) : (
              <span>{o.label}</span>
            )}
            <span>{format.figure(o.value, o.kind)}</span>
          </Pair>
        ))}
        <Pair sum>
          <b>=</b>
          <b data-result={w.measure}>{format.figure(w.result, w.kind)}</b>
        </Pair>
      </Working>
      {w.reason && <Box mt="8">{words.margin.noFigure(w.reason)}</Box>}
      {w.sentence && <Box mt="8">{w.sentence}</Box>}
      {w.rows.length > 0 && (
        <>
          <MarginHead>{words.margin.behind}</MarginHead>
          {w.rows.map((r, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: the rows of a working have no other identity
            <Pair key={i} dotted>
              <span>
                {kind === "activity" || r.code === r.name ? (
                  r.name
                ) : (
                  <Button
                    look="link"
                    onClick={() =>
                      measure === "finish"
                        ? tell({ about: "activity", code: r.code })
                        : open(w.measure, "activity", r.code, of)
                    }
                  >
                    {r.name}
                  </Button>
                )}
                {r.note && <small> {r.note}</small>}
              </span>
              <span>{format.figure(r.value, r.kind)}</span>
            </Pair>
          ))}
        </>
      )}
    </Box>
  );
}
