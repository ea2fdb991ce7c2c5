import { Box, Flex, Heading } from "@chakra-ui/react";
import { useEffect } from "react";
import { Link, useOutletContext } from "react-router";
import type { Schemas } from "../../api";
import { Frame, Notice, useAddressed } from "../../shared";
import { Tabs } from "../../shared/ui";
import { words } from "../../shared/words/people";
import { PersonMenu } from "../accounts";
import { Guide } from "../guide";
import { People } from "./People";
import { Projects } from "./Projects";
import { Trail } from "./Trail";

const w = words.people;
const TABS = { people: People, projects: Projects, trail: Trail } as const;
const KEYS = Object.keys(TABS) as (keyof typeof TABS)[];

/** For administrators: who signs in, who sees which project, and what happened. */
export function PeopleScreen() {
  const { person, mode, switchMode } = useOutletContext<{
    person: Schemas["PersonOut"];
    mode: string;
    switchMode: () => void;
  }>();
  const [{ show }, go] = useAddressed("people", { show: "people" });
  useEffect(() => {
    document.title = `${w.title} · ${words.product}`;
  }, []);
  const tab = KEYS.find((k) => k === show) ?? "people";
  const Tab = TABS[tab];
  return (
    <Frame
      title={<Link to="/">{words.product}</Link>}
      under={words.frame.desk}
      end={
        <>
          <Guide room="people" />
          <PersonMenu person={person} mode={mode} switchMode={switchMode} />
        </>
      }
    >
      {person.administrator ? (
        <Box py="18" px="24">
          <Heading as="h1" fontFamily="heading" fontWeight="600" fontSize="room" mb="8">
            {w.title}
          </Heading>
          <Tabs label={w.title} parts={KEYS.map((key) => [key, w.tabs[key]])} at={tab} go={(key) => go({ show: key })}>
            <Flex direction="column" pt="14">
              <Tab />
            </Flex>
          </Tabs>
        </Box>
      ) : (
        <Notice bad>{w.takes}</Notice>
      )}
    </Frame>
  );
}
