import { Box, Flex } from "@chakra-ui/react";
import { PlanNote } from "../features/plan";
import { ActivityNote, FigureNote } from "../features/value";
import { usePlace, words } from "../shared";

/** The margin: what the chosen row or figure means. */
export function Margin({ open, fold }: { open: boolean; fold: () => void }) {
  const { topic } = usePlace();
  return (
    <Flex
      as="aside"
      aria-label={words.frame.margin}
      direction="column"
      width={open ? "272px" : "34px"}
      flex="none"
      borderLeftWidth="1px"
      borderColor="ruleStrong"
    >
      <Flex justify="flex-end" p="4px">
        <button
          type="button"
          className="quiet"
          onClick={fold}
          aria-expanded={open}
          aria-label={open ? words.frame.fold : words.frame.unfold}
        >
          {open ? "»" : "«"}
        </button>
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
          {topic?.about === "figure" && <FigureNote topic={topic} />}
          {topic?.about === "activity" && <ActivityNote code={topic.code} />}
          {topic?.about === "row" && <PlanNote key={topic.id} id={topic.id} />}
          {!topic && (
            <Box color="soft" pt="18px">
              {words.frame.nothing}
            </Box>
          )}
        </Box>
      )}
    </Flex>
  );
}
