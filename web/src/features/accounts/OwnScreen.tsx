import { Box, Heading } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { Link, useOutletContext } from "react-router";
import { client, type Schemas, take } from "../../api";
import { Bones, Frame, format, keys, Notice } from "../../shared";
import { Button, DataTable, PartTitle, Soft } from "../../shared/ui";
import { words } from "../../shared/words/people";
import { OwnFormats } from "./OwnFormats";
import { Password } from "./Password";
import { PersonMenu } from "./PersonMenu";

const w = words.own;

/** One's own password, and where one is signed in. */
export function OwnScreen() {
  const { person, mode, switchMode } = useOutletContext<{
    person: Schemas["PersonOut"];
    mode: string;
    switchMode: () => void;
  }>();
  useEffect(() => {
    document.title = `${w.title} · ${words.product}`;
  }, []);
  return (
    <Frame
      title={<Link to="/">{words.product}</Link>}
      under={words.frame.desk}
      end={<PersonMenu person={person} mode={mode} switchMode={switchMode} />}
    >
      <Box py="18" px="24" maxW="900px">
        <Heading as="h1" fontFamily="heading" fontWeight="600" fontSize="room">
          {w.title}
        </Heading>
        <Soft as="p">
          {person.full_name}, {person.username}: {words.roles[person.role]}
        </Soft>
        <PartTitle>{w.password}</PartTitle>
        {person.has_password ? <Password /> : <Soft>{w.none}</Soft>}
        <PartTitle>{w.formats}</PartTitle>
        <OwnFormats formats={person.formats} />
        <PartTitle>{w.sessions}</PartTitle>
        <Sessions />
      </Box>
    </Frame>
  );
}

function Sessions() {
  const queries = useQueryClient();
  const own = useQuery({ queryKey: keys.sessions, queryFn: () => take(client.GET("/api/sessions")) });
  const end = async (id: number) => {
    await take(client.DELETE("/api/sessions/{id}", { params: { path: { id } } })).finally(() =>
      queries.invalidateQueries({ queryKey: keys.sessions }),
    );
  };
  if (own.isPending) return <Bones />;
  if (!own.data) return <Notice bad>{own.error?.message}</Notice>;
  return (
    <DataTable
      aria-label={w.sessions}
      rows={own.data.sessions}
      keyOf={(s) => s.id}
      columns={[
        {
          title: w.since,
          kind: "date",
          cell: (s) => (
            <>
              {format.date(s.at)}, {format.clock(s.at)}
            </>
          ),
        },
        { title: w.from, cell: (s) => s.address },
        { title: w.with, cell: (s) => s.agent },
        {
          title: "",
          cell: (s) => (s.here ? <Soft>{w.here}</Soft> : <Button onClick={() => end(s.id)}>{w.end}</Button>),
        },
      ]}
    />
  );
}
