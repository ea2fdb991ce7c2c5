import { usePlace, words } from "../../shared";
import { Anchor } from "../../shared/ui";
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
      <div className="sheet-head">
        <h1>{w.title}</h1>
      </div>
      <div className="scroll-box">
        <h2 className="part-title">{w.out}</h2>
        <p className="soft-text">{w.outHelp}</p>
        <div className="row-of">
          {link("book.json", w.json)}
          {link("book.xlsx", w.xlsx)}
          {link("book.csv", w.csv)}
        </div>
        <h2 className="part-title">{w.pictures}</h2>
        <p className="soft-text">{w.picturesHelp(page.code)}</p>
        <div className="row-of">
          {link("timeline.svg", w.timelineSvg)}
          {link("timeline.png", w.timelinePng)}
          {link("curve.svg", w.curveSvg)}
          {link("curve.png", w.curvePng)}
          {link("milestones.ics", w.dates)}
        </div>
        <h2 className="part-title">{w.in}</h2>
        {person.role !== "reader" && page.state === "wet" ? (
          <>
            <p className="soft-text">{w.inHelp}</p>
            <BringFile project={project} />
          </>
        ) : (
          <p className="soft-text">{w.inNeeds}</p>
        )}
      </div>
    </>
  );
}
