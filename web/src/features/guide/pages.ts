/** The pages of docs/guide with their pictures, as they are when the application is built. */
const TEXTS = import.meta.glob<string>("../../../../docs/guide/*.md", {
  query: "?raw",
  import: "default",
  eager: true,
});
const PICTURES = import.meta.glob<string>("../../../../docs/screenshots/*.png", {
  query: "?url",
  import: "default",
  eager: true,
});

const nameOf = (path: string) => path.split("/").at(-1) ?? path;

/** The index first, then the pages in the order in which it names them. */
export const pages: ReadonlyMap<string, string> = (() => {
  const found = new Map(Object.entries(TEXTS).map(([path, text]) => [nameOf(path), text]));
  const index = found.get("README.md") ?? "";
  const named = [...index.matchAll(/\]\((\w+\.md)\)/g)].map((m) => m[1] ?? "");
  return new Map(["README.md", ...named].map((name) => [name, found.get(name) ?? ""]));
})();

export const titleOf = (name: string) => /^# (.+)$/m.exec(pages.get(name) ?? "")?.[1] ?? name;
export const pictureOf = (path: string) => PICTURES[`../../../../docs/screenshots/${nameOf(path)}`];
/** The page of a room; the index where it has none. */
export const pageOf = (room: string) => (pages.has(`${room}.md`) ? `${room}.md` : "README.md");
