import { Box, Flex, Heading } from "@chakra-ui/react";
import { Link, useOutletContext } from "react-router";
import type { Schemas } from "../../api";
import { format, Mark, Notice, useDesk, words } from "../../shared";
import { Table } from "../../shared/ui";
import { PersonMenu } from "../accounts";
import { BringFile } from "../exchange";
import { NewProject } from "./NewProject";

/** All projects with their open page. */
export function DeskScreen() {
  const { person, mode, turn } = useOutletContext<{ person: Schemas["PersonOut"]; mode: string; turn: () => void }>();
  const desk = useDesk();
  return (
    <Box as="main" maxW="860px" mx="auto" p="28px" height="100vh" overflow="auto">
      <Flex gap="14px" align="center" mb="18px">
        <Heading as="h1" fontFamily="heading" fontWeight="600" fontSize="24px" flex="1">
          {words.desk.title}
        </Heading>
        {person.role !== "reader" && <NewProject />}
        <PersonMenu person={person} mode={mode} turn={turn} />
      </Flex>
      {desk.isError && <Notice bad>{desk.error.message}</Notice>}
      {desk.data?.projects.length === 0 && <Notice>{words.desk.empty}</Notice>}
      {desk.data && desk.data.projects.length > 0 && (
        <Table className="plain">
          <thead>
            <tr>
              <th>Project</th>
              <th>Open page</th>
              <th>Status</th>
            </tr>
          </thead>
          <tbody>
            {desk.data.projects.map((p) => (
              <tr key={p.code}>
                <td>
                  <Link to={`/${encodeURIComponent(p.code)}/${encodeURIComponent(p.page)}/posting`}>{p.name}</Link>
                  <Box color="soft">{p.code}</Box>
                </td>
                <td>to {format.fullDay(p.status)}</td>
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
          <h2 className="part-title">{words.desk.bring}</h2>
          <BringFile />
        </Box>
      )}
    </Box>
  );
}
