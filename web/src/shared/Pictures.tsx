import type { RefObject } from "react";
import { savePicture } from "./picture";
import { Button } from "./ui";
import { words } from "./words";

interface Props {
  of: RefObject<HTMLElement | null>;
  /** What is written over the drawing. */
  title: string;
  /** What the file is called. */
  name: string;
}

/** The drawings of a box as a picture. */
export const Pictures = ({ of, title, name }: Props) => (
  <>
    {(["svg", "png"] as const).map((form) => (
      <Button
        key={form}
        look="link"
        aria-label={words.chart.pictureOf(title, form.toUpperCase())}
        onClick={() => of.current && void savePicture(of.current, title, name, form)}
      >
        {form.toUpperCase()}
      </Button>
    ))}
  </>
);
