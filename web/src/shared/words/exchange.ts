import { words as common } from "../words";
import { named, say } from "./named";

export const words = say({
  ...common,
  exchange: {
    title: "Exchange",
    out: "Export",
    outHelp:
      "All of the project with its pages and baselines. Imported again it is the same book; its closed pages are computed and sealed anew.",
    json: "Book, JSON",
    xlsx: "Workbook, XLSX",
    csv: "Tables, CSV in a zip",
    archive: "Archive, with seals",
    archiveHelp:
      "For another installation, or to put away: every closed page as it was closed, with its seal, the editions of its report and the journal. Imported as a project of its own.",
    pictures: "Pictures and dates",
    picturesHelp: (page: string) => `As of page ${page}.`,
    timelineSvg: "Timeline, SVG",
    timelinePng: "Timeline, PNG",
    curveSvg: "Curve, SVG",
    curvePng: "Curve, PNG",
    dates: "Milestones, iCalendar",
    in: "Import",
    inHelp:
      "A workbook or CSV adds to this plan and changes it, by codes. You see row by row what it would do before anything is done. An empty cell leaves what is there.",
    inNeeds: "Read only. Importing needs the analyst role, on the open page.",
    choose: "Choose a file: JSON, XLSX, CSV, a zip of CSVs, or an archive",
    as: "Code for the project",
    apply: "Import",
    leave: "Discard",
    reading: "Reading the file…",
    ready: "This is what it would do.",
    notReady: "It can't be imported as it is. Nothing was changed.",
    done: (name: string) => `Imported into ${name}.`,
    counts: (add: number, change: number, leave: number, refuse: number) =>
      `${add} to add, ${change} to change, ${leave} the same, ${refuse} refused.`,
    unknown: (what: string) => `Not known here and left out: ${what}.`,
    row: "Row",
    what: "What",
    name: "Name",
    detail: "Change or reason",
    whats: named({ add: "add", change: "change", leave: "leave", refuse: "refuse" }),
  },
} as const);
