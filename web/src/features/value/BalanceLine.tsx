import { Box, chakra, Flex } from "@chakra-ui/react";
import { memo } from "react";
import { format, useBalance, useLastEffect, useOpenFigure, usePlace, words } from "../../shared";
import { Button, Settling } from "../../shared/ui";

/** The totals of the ledger, always there. Each opens its working; after an entry each shows what it changed. */
export const BalanceLine = memo(function BalanceLine() {
  const { project, page, frame } = usePlace();
  const effect = useLastEffect();
  const balance = useBalance(project, page.code);
  const open = useOpenFigure();
  const b = balance.data;
  const change = effect?.change ?? {};
  const items = b
    ? [
        { name: words.measures.pv, measure: "pv", shown: format.money(b.pv), why: b.reasons.pv },
        { name: words.measures.ev, measure: "ev", shown: format.money(b.ev) },
        {
          name: words.measures.ac,
          measure: "ac",
          shown: format.money(b.ac),
          under: b.reckoned ? <i>{words.frame.reckoned(format.money(b.reckoned))}</i> : undefined,
        },
        { name: words.measures.spi, measure: "spi", shown: format.ratio(b.spi), why: b.reasons.spi },
        { name: words.measures.cpi, measure: "cpi", shown: format.ratio(b.cpi), why: b.reasons.cpi },
        {
          name: words.measures.eac,
          measure: "eac",
          shown: format.money(b.eac),
          why: b.reasons.eac,
          under: words.frame.methods[b.eac_method],
        },
        {
          name: words.measures.finish,
          measure: "finish",
          shown: `${format.day(b.finish)}${b.drift == null ? "" : `, ${format.late(b.drift)}`}`,
          under: b.first && b.first_drift != null ? words.frame.first(b.first, format.late(b.first_drift)) : undefined,
        },
      ]
    : [];
  return (
    <Flex
      as="section"
      aria-label={words.frame.balance}
      minHeight="36px"
      flexWrap="wrap"
      flex="none"
      align="center"
      px="8"
      borderTopWidth="3px"
      borderTopStyle="double"
      borderColor="ink"
      whiteSpace="nowrap"
      // At 150 % zoom it stays one line, that slides; of when and against what it is stays in sight.
      css={{ "@media (max-width: 900px)": { flexWrap: "nowrap", overflowX: "auto" } }}
    >
      {items.map((i) => (
        <Button
          key={i.name}
          look="total"
          data-tip={i.why}
          data-measure={i.measure}
          onClick={() => open(i.measure, "project", frame.code)}
        >
          <chakra.small color="soft" fontSize="fine">
            {i.name}
          </chakra.small>{" "}
          <b>{i.shown}</b>
          {"under" in i && i.under && (
            <chakra.small display="block" color="soft" fontSize="fine" lineHeight="1.1">
              {i.under}
            </chakra.small>
          )}
          {change[i.measure] && <Delta measure={i.measure} value={change[i.measure] ?? ""} />}
        </Button>
      ))}
      <Box flex="1" />
      {b && (
        <Box
          color="soft"
          fontSize="fine"
          lineHeight="1.25"
          textAlign="right"
          flex="none"
          pl="8"
          position="sticky"
          right="0"
          bg="paper"
        >
          <div>{words.frame.upTo(b.currency, format.fullDay(b.status))}</div>
          <div data-tip={frame.baseline_name ?? undefined}>
            {words.frame.against(b.baseline)}
            {page.calculation !== frame.calculation && (
              <span data-tip={words.frame.reckonedNow(frame.calculation)}>
                , {words.frame.closedUnder(page.calculation)}
              </span>
            )}
          </div>
        </Box>
      )}
    </Flex>
  );
});

function Delta({ measure, value }: { measure: string; value: string }) {
  const shown =
    measure === "finish"
      ? format.drift(Number(value))
      : measure === "spi" || measure === "cpi"
        ? `${value.startsWith("-") ? "\u2212" : "+"}${format.ratio(Math.abs(Number(value)))}`
        : format.signed(value);
  return (
    <Settling color="wet" fontSize="fine">
      {" "}
      {shown}
    </Settling>
  );
}
