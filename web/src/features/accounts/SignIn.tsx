import { Box, Heading, Stack, Text } from "@chakra-ui/react";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { client, type Schemas, take } from "../../api";
import { Frame, keys, words } from "../../shared";
import { Button, Input } from "../../shared/ui";

interface Props {
  people: Schemas["PersonOut"][];
  /** Why one is asked to sign in. */
  note?: string;
  then?: (person: Schemas["PersonOut"]) => void;
}

/** The page of whoever is not signed in. */
export const SignIn = (props: Props) => (
  <Frame title={words.product} under={words.signIn.title}>
    <Box minH="100%" display="grid" placeItems="center" p="24">
      <SignInForm {...props} />
    </Box>
  </Frame>
);

/** Sign in by name and password; in demo mode the demo people stand ready. */
export function SignInForm({ people, note, then }: Props) {
  const queries = useQueryClient();
  const [username, setName] = useState("");
  const [password, setPassword] = useState("");
  const signIn = useMutation({
    mutationFn: (body: Schemas["SignIn"]) => take(client.POST("/api/session", { body })),
    onSuccess: (session) => {
      queries.setQueryData(keys.session, session);
      if (session.person) then?.(session.person);
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    signIn.mutate({ username, password });
  };
  return (
    <Box
      width="380px"
      maxW="100%"
      bg="paper"
      borderWidth="1px"
      borderColor="ruleStrong"
      borderTopWidth="4px"
      borderTopColor="ink"
      p="24"
    >
      <Heading as="h1" fontFamily="heading" fontSize="name" mb="4">
        {words.product}
      </Heading>
      <Text color="soft" mb="18">
        {note ?? words.signIn.line}
      </Text>
      {people.length > 0 && (
        <Stack gap="6" mb="18" role="group" aria-label={words.signIn.demo}>
          <Text fontWeight="600" fontSize="small" color="soft">
            {words.signIn.demo}
          </Text>
          {people.map((p) => (
            <Button
              key={p.username}
              display="flex"
              justifyContent="space-between"
              py="6"
              onClick={() => signIn.mutate({ username: p.username })}
            >
              <span>{p.full_name}</span>
              <Box as="span" color="soft">
                {words.roles[p.role]}
              </Box>
            </Button>
          ))}
        </Stack>
      )}
      <form onSubmit={submit}>
        <Stack gap="10">
          <label>
            {words.signIn.name}
            <Input
              width="100%"
              value={username}
              onChange={(e) => setName(e.target.value)}
              autoComplete="username"
              required
            />
          </label>
          <label>
            {words.signIn.password}
            <Input
              width="100%"
              type="password"
              value={password}
              aria-invalid={signIn.isError || undefined}
              aria-describedby={signIn.isError ? "why-not" : undefined}
              onChange={(e) => setPassword(e.target.value)}
              autoComplete="current-password"
            />
          </label>
          {signIn.isError && (
            <Box id="why-not" role="alert" color="act">
              {signIn.error.message}
            </Box>
          )}
          <Button type="submit" look="seal" disabled={signIn.isPending}>
            {words.signIn.go}
          </Button>
        </Stack>
      </form>
    </Box>
  );
}
