import { Button, RowOf, styled } from "../../shared/ui";
import { words } from "../../shared/words/people";

const w = words.people;
const Secret = styled("code", { base: { fontSize: "lead", userSelect: "all" } });

/** A password for the next sign-in, told this once. */
export const Given = ({ name, password, shut }: { name: string; password: string; shut: () => void }) => (
  <RowOf role="status" borderWidth="1px" borderColor="wet" py="8" px="10" mb="10">
    <span>{w.given(name)}</span>
    <Secret>{password}</Secret>
    <Button onClick={shut}>{w.seen}</Button>
  </RowOf>
);
