import { Box, Flex, Heading } from "@chakra-ui/react";
import { useEffect } from "react";
import { Link, useOutletContext } from "react-router";
import type { Schemas } from "../../api";
import { Frame, format, Mark, Notice, useDesk } from "../../shared";
import { PartTitle, Table } from "../../shared/ui";
import { words } from "../../shared/words/desk";
import { PersonMenu } from "../accounts";
import { BringFile } from "../exchange";
import { NewProject } from "./NewProject";

/** All projects with their open page. */
export function DeskScreen() {
  const { person, mode, turn } = useOutletContext<{ person: Schemas["PersonOut"]; mode: string; turn: () => void }>();
  const desk = useDesk();
  useEffect(() => {
    document.title = `${words.desk.title} · ${words.product}`;
  }, []);
  return (
    <Frame title={words.product} under={words.desk.title} end={<PersonMenu person={person} mode={mode} turn={turn} />}>
      <Box maxW="960px" p="18px 28px">
        <Flex gap="14px" align="center" mb="12px">
          <Heading as="h1" fontFamily="heading" fontWeight="600" fontSize="19px" flex="1">
            {words.desk.title}
          </Heading>
          {person.role !== "reader" && <NewProject />}
        </Flex>
        {desk.isError && <Notice bad>{desk.error.message}</Notice>}
        {desk.data?.projects.length === 0 && <Notice>{words.desk.empty}</Notice>}
        {desk.data && desk.data.projects.length > 0 && (
          <Table>
            <thead>
              <tr>
                <th>{words.desk.project}</th>
                <th>{words.desk.page}</th>
                <th>{words.desk.status}</th>
              </tr>
            </thead>
            <tbody>
              {desk.data.projects.map((p) => (
                <tr key={p.code}>
                  <td>
                    <Link to={`/${encodeURIComponent(p.code)}/${encodeURIComponent(p.page)}/posting`}>{p.name}</Link>
                    <Box color="soft">{p.code}</Box>
                  </td>
                  <td>{words.desk.to(`${format.dayName(p.status)} ${format.fullDay(p.status)}`)}</td>
                  <td>
                    <Mark mark={p.mark} silent /> {p.mark_word}
                  </td>
                </tr>
              ))}
            </tbody>
          </Table>
        )}
        {person.role !== "reader" && (
          <Box mt="26px">
            <PartTitle>{words.desk.bring}</PartTitle>
            <BringFile />
          </Box>
        )}
      </Box>
    </Frame>
  );
}
