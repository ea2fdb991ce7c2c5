import { chakra } from "@chakra-ui/react";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Link, useNavigate } from "react-router";
import { client, type Schemas, take } from "../../api";
import { forgetLooks, keys, words } from "../../shared";
import { Button } from "../../shared/ui";

/** Who is signed in, the theme, and the way out. */
export function PersonMenu({
  person,
  mode,
  switchMode,
}: {
  person: Schemas["PersonOut"];
  mode: string;
  switchMode: () => void;
}) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const out = useMutation({
    mutationFn: () => take(client.DELETE("/api/session")),
    onSuccess: async () => {
      navigate("/");
      await queries.refetchQueries({ queryKey: keys.session });
      queries.removeQueries({ predicate: (q) => q.queryKey[0] !== "session" });
      forgetLooks();
    },
  });
  return (
    <>
      <chakra.span color="ink" whiteSpace="nowrap" data-tip={words.roles[person.role]}>
        <Link to="/account" data-free="">
          {person.full_name}
        </Link>
      </chakra.span>
      <Button look="quiet" onClick={switchMode}>
        {mode === "dark" ? words.frame.light : words.frame.dark}
      </Button>
      <Button look="quiet" onClick={() => out.mutate()}>
        {words.frame.signOut}
      </Button>
    </>
  );
}
