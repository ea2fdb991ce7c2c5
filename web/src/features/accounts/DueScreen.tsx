import { Box, Heading, Text } from "@chakra-ui/react";
import { Frame } from "../../shared";
import { words } from "../../shared/words/people";
import { Password } from "./Password";

/** Nothing else is done before the password is changed. */
export const DueScreen = () => (
  <Frame title={words.product} under={words.own.title}>
    <Box py="24" px="24" maxW="560px" mx="auto">
      <Heading as="h1" fontFamily="heading" fontWeight="600" fontSize="room">
        {words.own.change}
      </Heading>
      <Text color="soft" mb="14">
        {words.own.due}
      </Text>
      <Password />
    </Box>
  </Frame>
);
