import { Anchor } from "./controls";

interface Props {
  /** The address of the file without its ending. */
  base: string;
  query?: string;
  forms?: ("csv" | "xlsx" | "pdf")[];
}

/** What is shown, as files. */
export const Files = ({ base, query = "", forms = ["csv", "xlsx"] }: Props) => (
  <>
    {forms.map((form) => (
      <Anchor
        key={form}
        look="link"
        display="inline-flex"
        alignItems="center"
        href={`${base}.${form}${query && `?${query}`}`}
        download
      >
        {form.toUpperCase()}
      </Anchor>
    ))}
  </>
);
