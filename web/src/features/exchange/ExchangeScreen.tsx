import { usePlace } from "../../shared";
import { Anchor, PartTitle, RoomHead, RowOf, ScrollBox, Soft } from "../../shared/ui";
import { words } from "../../shared/words/exchange";
import { BringFile } from "./BringFile";

const w = words.exchange;

/** Files in and out of a project. */
export function ExchangeScreen() {
  const { project, page, person } = usePlace();
  const at = `/api/projects/${encodeURIComponent(project)}/export/`;
  const link = (file: string, word: string) => (
    <Anchor key={file} href={`${at}${file}?page=${encodeURIComponent(page.code)}`} download>
      {word}
    </Anchor>
  );
  return (
    <>
      <RoomHead>
        <h1>{w.title}</h1>
      </RoomHead>
      <ScrollBox>
        <PartTitle>{w.out}</PartTitle>
        <Soft as="p">{w.outHelp}</Soft>
        <RowOf>
          {link("book.json", w.json)}
          {link("book.xlsx", w.xlsx)}
          {link("book.csv", w.csv)}
        </RowOf>
        <Soft as="p" pt="8">
          {w.archiveHelp}
        </Soft>
        <RowOf>
          <Anchor href={`/api/projects/${encodeURIComponent(project)}/archive`} download>
            {w.archive}
          </Anchor>
        </RowOf>
        <PartTitle>{w.pictures}</PartTitle>
        <Soft as="p">{w.picturesHelp(page.code)}</Soft>
        <RowOf>
          {link("timeline.svg", w.timelineSvg)}
          {link("timeline.png", w.timelinePng)}
          {link("curve.svg", w.curveSvg)}
          {link("curve.png", w.curvePng)}
          {link("milestones.ics", w.dates)}
        </RowOf>
        <PartTitle>{w.in}</PartTitle>
        {person.role !== "reader" && page.state === "wet" ? (
          <>
            <Soft as="p">{w.inHelp}</Soft>
            <BringFile project={project} />
          </>
        ) : (
          <Soft as="p">{w.inNeeds}</Soft>
        )}
      </ScrollBox>
    </>
  );
}
