import { Box, Flex, useMediaQuery } from "@chakra-ui/react";
import { type ComponentType, lazy, Suspense, useDeferredValue, useEffect } from "react";
import { Guard, type Told, useKept, useTopic, words } from "../shared";
import { Button } from "../shared/ui";
import { ROOMS } from "./rooms";

type Part = ComponentType<{ topic: Told }>;

/** What is told of each kind of topic, by the rooms that know of it. */
type Load = () => Promise<{ default: Part }>;
const LOADS = ROOMS.flatMap(({ path, margin = {} }) =>
  Object.entries(margin).map(([about, load]) => ({ path, about, load: load as Load })),
);
const PARTS = new Map(LOADS.map(({ about, load }) => [about, lazy(load)]));
/** What may be told of anything in every room. */
const EVERYWHERE = ["activity", "figure"];

/** Where less is in sight, what a row means gives way to the sheet until it is asked for. */
const ROOMY = "(min-width: 1000px)";

/** What the chosen row or figure means: there when it has something to say, and shut or open where a person pinned it, per room. */
export function Margin({ room }: { room: string }) {
  // The hands go on before what they stand on is told.
  const topic = useDeferredValue(useTopic());
  const [pinned, pin] = useKept<"open" | "shut" | "">(`margin.${room}`, "");
  const [roomy] = useMediaQuery([ROOMY], { ssr: false });
  const wanted = pinned === "open" || (pinned === "" && (roomy || topic?.about === "figure"));
  const open = topic !== null && wanted;
  // What the margin will need is fetched before it is asked for, so that it is there where the server is not.
  useEffect(() => {
    for (const { path, about, load } of LOADS)
      if (path === room || EVERYWHERE.includes(about)) load().catch(() => undefined);
  }, [room]);
  const Part = topic && PARTS.get(topic.about);
  return (
    <Flex
      as="aside"
      aria-label={words.frame.margin}
      direction="column"
      width={open ? "272px" : "30px"}
      flex="none"
      borderLeftWidth="1px"
      borderColor="ruleStrong"
    >
      <Flex justify="flex-end" p="4" position="relative" zIndex="1">
        <Button
          look="quiet"
          disabled={topic === null}
          onClick={() => pin(open ? "shut" : "open")}
          aria-expanded={open}
          aria-label={open ? words.frame.fold : words.frame.unfold}
          data-tip={open ? words.frame.fold : words.frame.unfold}
        >
          {open ? "»" : "«"}
        </Button>
      </Flex>
      {open && (
        <Box
          flex="1"
          overflow="auto"
          px="14"
          pb="14"
          mt="-18"
          tabIndex={0}
          role="region"
          aria-label={words.frame.margin}
        >
          <Guard of={JSON.stringify(topic)}>
            <Suspense fallback={null}>
              {Part && <Part key={"id" in topic ? topic.id : topic.about} topic={topic} />}
            </Suspense>
          </Guard>
        </Box>
      )}
    </Flex>
  );
}
