import { Box, Flex, Heading } from "@chakra-ui/react";
import { useEffect } from "react";
import { Link, Navigate, useOutletContext } from "react-router";
import type { Schemas } from "../../api";
import { Bones, Frame, Notice, useAddressed, useDesk } from "../../shared";
import { Files, PartTitle, Tabs } from "../../shared/ui";
import { words } from "../../shared/words/desk";
import { PersonMenu } from "../accounts";
import { BringFile } from "../exchange";
import { Guide } from "../guide";
import { DeskBar } from "./DeskBar";
import { DeskCurve } from "./DeskCurve";
import { DeskPeople } from "./DeskPeople";
import { DeskSummary } from "./DeskSummary";
import { NewProject } from "./NewProject";
import { Late, Projects, Sums } from "./Projects";
import { Risk } from "./Risk";
import { useDeskLook } from "./useDeskLook";

const w = words.desk;
const TABS = ["projects", "people", "risk", "summary", "curve"] as const;

/** Whether somebody begins projects. */
const begins = (person: Schemas["PersonOut"]) => person.role === "analyst" || person.role === "approver";

/** All projects with their open page, and what follows from all of them. */
export function DeskScreen() {
  const { person, mode, switchMode } = useOutletContext<{
    person: Schemas["PersonOut"];
    mode: string;
    switchMode: () => void;
  }>();
  const desk = useDesk();
  useEffect(() => {
    document.title = `${w.title} · ${words.product}`;
  }, []);
  // Who is only asked for progress has no desk.
  if (desk.data?.projects.length === 0 && person.role === "none" && !person.administrator)
    return <Navigate to="/my-work" replace />;
  return (
    <Frame
      title={words.product}
      under={w.title}
      end={
        <>
          <Guide room="desk" />
          <PersonMenu person={person} mode={mode} switchMode={switchMode} />
        </>
      }
    >
      <Box py="18" px="24">
        <Flex gap="14" align="center" mb="4">
          <Heading as="h1" fontFamily="heading" fontWeight="600" fontSize="room" flex="1">
            {w.title}
          </Heading>
          {desk.data && desk.data.projects.length > 0 && <Files base="/api/desk" forms={["csv", "xlsx", "pdf"]} />}
          {desk.data?.asked ? <Link to="/my-work">{w.myWork(desk.data.asked)}</Link> : null}
          {person.administrator && <Link to="/people">{w.people}</Link>}
          {begins(person) && <NewProject />}
        </Flex>
        {desk.isPending && <Bones />}
        {desk.isError && <Notice bad>{desk.error.message}</Notice>}
        {desk.data?.projects.length === 0 && <Notice>{w.empty}</Notice>}
        {desk.data && desk.data.projects.length > 0 && <Shown desk={desk.data} />}
        {begins(person) && (
          <Box mt="24">
            <PartTitle>{w.bring}</PartTitle>
            <BringFile />
          </Box>
        )}
      </Box>
    </Frame>
  );
}

function Shown({ desk }: { desk: Schemas["DeskOut"] }) {
  const look = useDeskLook(desk.projects);
  const [{ show }, go] = useAddressed("desk/tab", { show: "projects" });
  const tab = TABS.find((t) => t === show) ?? "projects";
  return (
    <Tabs
      label={w.title}
      parts={TABS.map((key) => [key, w.tabs[key]] as const)}
      at={tab}
      go={(key) => go({ show: key })}
      mb="10"
      px="0"
    >
      <DeskBar desk={look} all={desk.projects} views={desk.views} />
      {tab === "projects" && (
        <>
          {look.shown.length === 0 && <Notice>{w.nothingShown}</Notice>}
          {look.shown.length > 0 && <Projects desk={look} />}
          <Sums sums={desk.sums} />
          <Late late={desk.late} projects={look.shown} />
        </>
      )}
      {tab === "people" && <DeskPeople projects={look.shown} />}
      {tab === "risk" && <Risk projects={look.shown} />}
      {tab === "summary" && <DeskSummary projects={look.shown} />}
      {tab === "curve" && <DeskCurve projects={look.shown} />}
    </Tabs>
  );
}
