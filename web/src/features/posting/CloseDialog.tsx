import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { client, take } from "../../api";
import { format, keys, Modal, reportOf, useFindings, usePlace } from "../../shared";
import { Button, FormLine, Input, Why } from "../../shared/ui";
import { words } from "../../shared/words/posting";

interface Props {
  toGo: number;
  close: (next: string) => Promise<{ page: string }>;
  /** Only the next page is opened: this one is dry. */
  opening?: boolean;
  shut: () => void;
}

/** Whether the page is to be closed, with what that means. */
export function CloseDialog({ toGo, close, opening, shut }: Props) {
  const { project, page } = usePlace();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const found = useFindings(project, page.code);
  const report = useQuery({ ...reportOf(project, page.code), enabled: !opening });
  const [wrong, setWrong] = useState("");
  const [typed, setTyped] = useState<string | null>(null);
  const proposal = useQuery({
    queryKey: keys.project(project).nextStatus,
    queryFn: () => take(client.GET("/api/projects/{project}/next-page", { params: { path: { project } } })),
  });
  const next = typed ?? (proposal.data ? format.fullDay(proposal.data.status) : "");
  const seal = async () => {
    try {
      const next = await close(typed ?? "");
      queries.removeQueries({ queryKey: keys.project(project).all });
      await queries.invalidateQueries({ queryKey: keys.frame(project) });
      navigate(`/${encodeURIComponent(project)}/${encodeURIComponent(next.page)}/posting`);
    } catch (error) {
      setWrong(error instanceof Error ? error.message : String(error));
    }
  };
  return (
    <Modal
      title={opening ? words.posting.openTitle : words.posting.closeTitle(page.number)}
      out={opening ? words.posting.notNow : words.posting.keep}
      does={
        <Button look="seal" onClick={seal}>
          {opening ? words.posting.openNext : words.posting.close}
        </Button>
      }
      shut={shut}
      asks
      width="440px"
    >
      {toGo > 0 && <p>{words.posting.closeOpen(toGo)}</p>}
      {!opening && found.data && found.data.open > 0 && (
        <p>
          {words.posting.closeFound(found.data.open, found.data.impossible)}{" "}
          <Link to={`/${encodeURIComponent(project)}/${encodeURIComponent(page.code)}/checks`} onClick={shut}>
            {words.stations.checks}
          </Link>
        </p>
      )}
      {!opening && report.data && !report.data.draft.status && (
        <p>
          {words.posting.closeStatus}{" "}
          <Link to={`/${encodeURIComponent(project)}/${encodeURIComponent(page.code)}/report`} onClick={shut}>
            {words.stations.report}
          </Link>
        </p>
      )}
      <p>{opening ? words.posting.openSure : words.posting.closeSure}</p>
      <FormLine>
        <label htmlFor="next-status">
          {proposal.data && typed === null
            ? words.posting.nextOn(format.dayName(proposal.data.status))
            : words.posting.next}
        </label>
        <Input
          id="next-status"
          value={next}
          placeholder={words.posting.nextHint}
          aria-invalid={wrong ? true : undefined}
          aria-describedby="next-why"
          onChange={(e) => {
            setTyped(e.target.value);
            setWrong("");
          }}
        />
      </FormLine>

      {wrong && (
        <Why as="p" role="alert" id="next-why">
          {wrong}
        </Why>
      )}
    </Modal>
  );
}
