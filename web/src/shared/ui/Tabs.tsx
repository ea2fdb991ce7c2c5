import { Tabs as ChakraTabs } from "@chakra-ui/react";
import type { ComponentProps, ReactNode } from "react";
import { NavLink, useParams } from "react-router";
import { Button } from "./controls";
import { Parts } from "./parts";

type Named = readonly (readonly [key: string, word: ReactNode])[];
type Bar = Omit<ComponentProps<typeof Parts>, "children" | "onChange">;

interface Props extends Bar {
  label: string;
  parts: Named;
  at: string;
  go: (key: string) => void;
}

/** Tabs, and under them what the one that is chosen holds; arrow keys go from one to the next. */
export const Tabs = ({ label, parts, at, go, children, ...bar }: Props & { children: ReactNode }) => (
  <ChakraTabs.Root unstyled value={at} onValueChange={({ value }) => go(value)}>
    <ChakraTabs.List asChild>
      <Parts aria-label={label} {...bar}>
        {parts.map(([key, word]) => (
          <ChakraTabs.Trigger key={key} value={key} asChild>
            <Button look="bare">{word}</Button>
          </ChakraTabs.Trigger>
        ))}
      </Parts>
    </ChakraTabs.List>
    <ChakraTabs.Content value={at}>{children}</ChakraTabs.Content>
  </ChakraTabs.Root>
);

/** The parts of a room that stand one in the place of another. */
export const PartBar = ({ label, parts, at, go, ...bar }: Props) => (
  <Parts as="nav" aria-label={label} {...bar}>
    {parts.map(([key, word]) => (
      <Button look="bare" key={key} aria-current={at === key ? "page" : undefined} onClick={() => go(key)}>
        {word}
      </Button>
    ))}
  </Parts>
);

/** The parts of a room that have addresses of their own. */
export function PartLinks({ label, parts, ...bar }: Bar & { label: string; parts: Named }) {
  const { project = "", page = "" } = useParams();
  return (
    <Parts as="nav" aria-label={label} {...bar}>
      {parts.map(([to, word]) => (
        <NavLink key={to} to={`/${encodeURIComponent(project)}/${encodeURIComponent(page)}/${to}`} end>
          {word}
        </NavLink>
      ))}
    </Parts>
  );
}
