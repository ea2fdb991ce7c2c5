import { Box, Flex } from "@chakra-ui/react";
import type { ReactNode } from "react";

interface BandProps {
  title: ReactNode;
  /** The small line under the title. */
  under?: ReactNode;
  /** What stands at the right end. */
  end?: ReactNode;
  children?: ReactNode;
}

/** The top band: what one is in, the middle, and who one is. */
export function Band({ title, under, end, children }: BandProps) {
  return (
    <Flex
      as="header"
      height="48px"
      flex="none"
      borderBottomWidth="1px"
      borderColor="ruleStrong"
      align="stretch"
      gap="8"
      px="14"
    >
      <Flex direction="column" justify="center" maxW="min(300px, 24vw)" minW="0" flex="none">
        <Box fontFamily="heading" fontWeight="600" fontSize="lead" lineHeight="1.2" truncate data-free="">
          {title}
        </Box>
        <Box color="soft" fontSize="fine" whiteSpace="nowrap">
          {under}
        </Box>
      </Flex>
      <Flex flex="1" minW="0">
        {children}
      </Flex>
      <Flex align="center" gap="8" flex="none">
        {end}
      </Flex>
    </Flex>
  );
}

/** The frame where there is no project: the band, and a sheet of paper under it. */
export function Frame({ children, ...band }: BandProps) {
  return (
    <Flex direction="column" height="100vh">
      <Band {...band} />
      <Box as="main" id="sheet" tabIndex={-1} flex="1" minH="0" overflow="auto" bg="sheet">
        {children}
      </Box>
    </Flex>
  );
}
