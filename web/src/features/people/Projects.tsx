import { Box, Flex } from "@chakra-ui/react";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { client, take } from "../../api";
import { Bones, keys, Notice, useAddressed } from "../../shared";
import { Button, DataTable, Input, PartTitle, Soft } from "../../shared/ui";
import { words } from "../../shared/words/people";
import { Members } from "./Members";

const w = words.people;

/** Every project by name, and who sees it: an administrator gives access without seeing more of it. */
export function Projects() {
  const queries = useQueryClient();
  const [{ of }, go] = useAddressed("people", { of: "" });
  const access = useQuery({ queryKey: keys.access(), queryFn: () => take(client.GET("/api/access")) });
  const one = useQuery({
    queryKey: keys.access(of),
    queryFn: () => take(client.GET("/api/access/{code}", { params: { path: { code: of } } })),
    enabled: of !== "",
  });
  const apart = useMutation({
    mutationFn: (decided_apart: boolean) => take(client.PATCH("/api/access", { body: { decided_apart } })),
    onSuccess: (now) => queries.setQueryData(keys.access(), now),
  });
  if (access.isPending) return <Bones />;
  if (!access.data) return <Notice bad>{access.error?.message}</Notice>;
  return (
    <Flex gap="24" align="flex-start" wrap="wrap">
      <Box flex="1 1 420px">
        <Box as="label" display="block" mb="10">
          <Input
            look="bare"
            type="checkbox"
            checked={access.data.decided_apart}
            onChange={(e) => apart.mutate(e.target.checked)}
          />{" "}
          {w.decidedApart}
        </Box>
        <DataTable
          aria-label={w.tabs.projects}
          rows={access.data.projects}
          keyOf={(p) => p.code}
          line={(p) => ({ "data-chosen": p.code === of ? "" : undefined })}
          columns={[
            {
              title: w.project,
              cell: (p) => (
                <Button look="link" onClick={() => go({ of: p.code })}>
                  {p.name}
                </Button>
              ),
            },
            { title: w.code, cell: (p) => p.code },
            { title: w.sees, cell: (p) => (p.members_only ? w.membersOnly : w.all) },
            { title: w.members, kind: "num", cell: (p) => p.members },
          ]}
        />
      </Box>
      <Box flex="1 1 420px">
        {one.data ? (
          <>
            <PartTitle mt="0">{one.data.name}</PartTitle>
            <Members
              key={of}
              members={one.data}
              keep={async (body) => {
                await take(client.PUT("/api/access/{code}", { params: { path: { code: of } }, body }));
                queries.invalidateQueries({
                  predicate: (q) => ["access", "people", "desk"].includes(String(q.queryKey[0])),
                });
              }}
            />
          </>
        ) : one.isError ? (
          <Notice bad>{one.error.message}</Notice>
        ) : (
          <Soft>{w.open}</Soft>
        )}
      </Box>
    </Flex>
  );
}
