import { Box } from "@chakra-ui/react";
import type { ReactNode } from "react";

/** What letting go of something on a timeline would do, said while it is held; or why it can't be. */
export const Consequence = ({ bad, children }: { bad?: boolean; children: ReactNode }) => (
  <Box
    position="absolute"
    left="50%"
    top="60px"
    transform="translateX(-50%)"
    zIndex="12"
    bg="sheet"
    borderWidth="1px"
    borderLeftWidth="4px"
    borderColor={bad ? "act" : "wet"}
    py="8"
    px="14"
    maxW="520px"
    role="status"
    data-say={bad ? "bad" : "good"}
  >
    {children}
  </Box>
);
