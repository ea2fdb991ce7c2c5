/** A drawing on the screen as a picture file: SVG with its looks written into it, or PNG at twice its size. */
import regular from "@fontsource/ibm-plex-sans/files/ibm-plex-sans-latin-400-normal.woff2?url";

const LOOKS = [
  ...["fill", "fill-opacity", "stroke", "stroke-width", "stroke-dasharray", "stroke-linecap", "opacity"],
  ...["font-size", "font-weight", "text-anchor", "dominant-baseline", "paint-order"],
];
const HEAD = 26;
const NAMESPACE = "http://www.w3.org/2000/svg";

/** Writes the looks that an element has on the screen into its copy, and into all that is in it. */
function dress(from: Element, to: Element) {
  const looks = getComputedStyle(from);
  for (const name of LOOKS) {
    const value = looks.getPropertyValue(name);
    if (value && value !== "none" && value !== "normal") to.setAttribute(name, value);
    else if (value === "none" && (name === "fill" || name === "stroke")) to.setAttribute(name, "none");
  }
  to.removeAttribute("class");
  to.removeAttribute("style");
  [...from.children].forEach((child, i) => {
    const copy = to.children[i];
    if (copy) dress(child, copy);
  });
}

/** The drawings of a box under each other, with a title over them, as one SVG. */
function drawn(box: Element, title: string): { text: string; width: number; height: number } | null {
  const found = [...box.querySelectorAll("svg")].filter((s) => s.clientHeight > 40 && !s.parentElement?.closest("svg"));
  const [first] = found;
  if (!first) return null;
  const width = Math.max(...found.map((s) => s.clientWidth));
  const out = document.createElementNS(NAMESPACE, "svg");
  let top = HEAD;
  for (const svg of found) {
    const copy = svg.cloneNode(true) as SVGSVGElement;
    dress(svg, copy);
    copy.setAttribute("x", "0");
    copy.setAttribute("y", String(top));
    copy.setAttribute("width", String(svg.clientWidth));
    copy.setAttribute("height", String(svg.clientHeight));
    out.append(copy);
    top += svg.clientHeight + 4;
  }
  out.setAttribute("xmlns", NAMESPACE);
  out.setAttribute("viewBox", `0 0 ${width} ${top}`);
  out.setAttribute("width", String(width));
  out.setAttribute("height", String(top));
  out.setAttribute("font-family", "'IBM Plex Sans', sans-serif");
  const ground = document.createElementNS(NAMESPACE, "rect");
  ground.setAttribute("width", "100%");
  ground.setAttribute("height", "100%");
  const sheet = getComputedStyle(document.documentElement).getPropertyValue("--chakra-colors-sheet");
  ground.setAttribute("fill", sheet || "#fff");
  const head = document.createElementNS(NAMESPACE, "text");
  head.setAttribute("x", "8");
  head.setAttribute("y", "18");
  head.setAttribute("font-size", "13");
  head.setAttribute("fill", getComputedStyle(box).color);
  head.textContent = title;
  out.prepend(ground, head);
  return { text: new XMLSerializer().serializeToString(out), width, height: top };
}

/** Has the browser keep something as a file. */
export function keepFile(content: Blob, name: string) {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(content);
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}

/** The text face as a part of a picture: a picture can't fetch one. */
async function face(): Promise<string> {
  const bytes = new Uint8Array(await (await fetch(regular)).arrayBuffer());
  let text = "";
  for (const b of bytes) text += String.fromCharCode(b);
  const source = `url(data:font/woff2;base64,${btoa(text)})`;
  return `<style>@font-face{font-family:'IBM Plex Sans';src:${source}}</style>`;
}

/** Has the browser keep the drawings of a box as a file. */
export async function savePicture(box: Element, title: string, name: string, form: "svg" | "png") {
  const made = drawn(box, title);
  if (!made) return;
  if (form === "svg") {
    keepFile(new Blob([made.text], { type: "image/svg+xml" }), `${name}.svg`);
    return;
  }
  const text = made.text.replace(/(<svg[^>]*>)/, `$1${await face()}`);
  const image = new Image();
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(text)}`;
  await image.decode();
  const canvas = document.createElement("canvas");
  canvas.width = made.width * 2;
  canvas.height = made.height * 2;
  canvas.getContext("2d")?.drawImage(image, 0, 0, canvas.width, canvas.height);
  canvas.toBlob((blob) => blob && keepFile(blob, `${name}.png`), "image/png");
}
