import { words as common } from "../words";

export const words = {
  ...common,
  desk: {
    title: "Projects",
    project: "Project",
    page: "Open page",
    status: "Status",
    to: (day: string) => `to ${day}`,
    empty: "There is no project yet. Make one, or import one from a file.",
    begin: "New project",
    name: "Name",
    code: "Code",
    codeHint: "made from the name",
    from: "From",
    nothing: "nothing",
    template: "a template",
    copy: "a copy of a project",
    copyOf: "Copy of",
    progress: "with its baselines and pages",
    start: "Start",
    startHint: "4 jan 2027",
    startKeeps: "as it was",
    currency: "Currency",
    create: "Create",
    bring: "Import a project",
  },
} as const;
