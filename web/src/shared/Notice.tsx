import { Box } from "@chakra-ui/react";
import type { ReactNode } from "react";

/** A quiet line for reading, waiting, and refusals. */
export function Notice({ children, bad = false }: { children: ReactNode; bad?: boolean }) {
  return (
    <Box px="18" py="14" color={bad ? "act" : "soft"} role={bad ? "alert" : "status"}>
      {children}
    </Box>
  );
}
