import { Box, Flex } from "@chakra-ui/react";
import { lazy, Suspense } from "react";
import { useKept, usePlace, words } from "../shared";
import { Button } from "../shared/ui";

const PlanNote = lazy(() => import("../features/plan").then((m) => ({ default: m.PlanNote })));
const ActivityNote = lazy(() => import("../features/value").then((m) => ({ default: m.ActivityNote })));
const FigureNote = lazy(() => import("../features/value").then((m) => ({ default: m.FigureNote })));

/** What the chosen row or figure means: there when it has something to say, and shut or open where a person pinned it, per room. */
export function Margin({ room }: { room: string }) {
  const { topic } = usePlace();
  const [pinned, pin] = useKept<"open" | "shut" | "">(`margin.${room}`, "");
  const open = topic !== null && pinned !== "shut";
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
      <Flex justify="flex-end" p="4px">
        <Button
          look="quiet"
          disabled={topic === null}
          onClick={() => pin(open ? "shut" : "open")}
          aria-expanded={open}
          aria-label={open ? words.frame.fold : words.frame.unfold}
          title={open ? words.frame.fold : words.frame.unfold}
        >
          {open ? "»" : "«"}
        </Button>
      </Flex>
      {open && (
        <Box
          flex="1"
          overflow="auto"
          px="16px"
          pb="16px"
          mt="-20px"
          tabIndex={0}
          role="region"
          aria-label={words.frame.margin}
        >
          <Suspense fallback={null}>
            {topic.about === "figure" && <FigureNote topic={topic} />}
            {topic.about === "activity" && <ActivityNote code={topic.code} />}
            {topic.about === "row" && <PlanNote key={topic.id} id={topic.id} />}
          </Suspense>
        </Box>
      )}
    </Flex>
  );
}
