import { Box, chakra, Flex, VisuallyHidden } from "@chakra-ui/react";
import { words } from "./words";

const Bone = chakra("div", { base: { bg: "rule", opacity: 0.55, height: "10px", flex: "none" } });
const LINES = [62, 44, 70, 52, 66, 38, 58, 48, 64, 42, 56, 50];

/** A room while it waits: its head, its columns and its lines, where they will stand. */
export const Bones = () => (
  <Box role="status" flex="1" minH="0" overflow="hidden">
    <VisuallyHidden>{words.frame.loading}</VisuallyHidden>
    <Box aria-hidden="true" p="14px">
      <Bone width="210px" height="16px" mb="18px" />
      <Flex gap="16px" pb="9px" borderBottomWidth="1px" borderColor="ruleStrong">
        {[46, 260, 90, 90, 90].map((width, at) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a bone is its place
          <Bone key={at} width={`${width}px`} />
        ))}
      </Flex>
      {LINES.map((part, at) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a bone is its place
        <Flex key={at} gap="16px" height="28px" align="center" borderBottomWidth="1px" borderColor="rule">
          <Bone width="46px" />
          <Flex width="260px">
            <Bone width={`${part}%`} />
          </Flex>
          {[70, 56, 62].map((width) => (
            <Flex key={width} width="90px" justify="flex-end">
              <Bone width={`${width}%`} />
            </Flex>
          ))}
        </Flex>
      ))}
    </Box>
  </Box>
);
