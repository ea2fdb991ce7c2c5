import { Link } from "react-router";
import { usePlace } from "./place";
import { useSigns } from "./queries";
import { styled } from "./ui";
import { signs } from "./words/signs";

const Flag = styled(
  Link,
  { base: { display: "inline-flex", ml: "4", color: "watch", verticalAlign: "-1px", "& svg": { display: "block" } } },
  { forwardProps: ["to", "title"] },
);

/** The small sign of a row that the checks have found something in; it leads to them. */
export function Sign({ code }: { code: string }) {
  const { project, page } = usePlace();
  const { data: open = 0 } = useSigns(project, page.code, code);
  if (!open) return null;
  const to = `/${encodeURIComponent(project)}/${encodeURIComponent(page.code)}/checks?row=${encodeURIComponent(code)}`;
  return (
    <Flag to={to} data-tip={signs.open(open)} aria-label={signs.open(open)} tabIndex={-1} data-sign={code}>
      <svg width="9" height="10" viewBox="0 0 9 10" aria-hidden="true">
        <path d="M4.5 1V6" stroke="currentColor" strokeWidth="1.8" strokeLinecap="round" />
        <circle cx="4.5" cy="8.6" r="1.1" fill="currentColor" />
      </svg>
    </Flag>
  );
}
