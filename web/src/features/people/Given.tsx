import { Button, RowOf, styled } from "../../shared/ui";
import { words } from "../../shared/words/people";

const w = words.people;
const Secret = styled("code", { base: { fontSize: "16px", userSelect: "all" } });

/** A password for the next sign-in, told this once. */
export const Given = ({ name, password, shut }: { name: string; password: string; shut: () => void }) => (
  <RowOf role="status" borderWidth="1px" borderColor="wet" p="8px 12px" mb="10px">
    <span>{w.given(name)}</span>
    <Secret>{password}</Secret>
    <Button onClick={shut}>{w.seen}</Button>
  </RowOf>
);
