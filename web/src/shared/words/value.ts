import { words as common } from "../words";

export const words = {
  ...common,
  value: {
    title: "Value",
    measures: "Measures",
    of: (name: string) => `Curve of ${name}`,
    expand: "Open all",
    fold: "Fold all",
    bucket: "By",
    project: "Project",
  },
} as const;
