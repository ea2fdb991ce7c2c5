import { words as common } from "../words";

export const words = {
  ...common,
  timeline: {
    title: "Timeline",
    scale: "Scale",
    start: "Start",
    finish: "Finish",
    variance: "Variance",
    driving: "Drives the finish",
    legend: [
      "bracket below: baseline",
      "solid: worked",
      "tint: remaining",
      "hatched: drift past the baseline finish",
      "plum outline: drives the finish",
      "pin: milestone, hollow its baseline",
      "dots: float",
      "gap with dots: pause or waiting",
    ],
  },
} as const;
