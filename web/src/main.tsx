import "@fontsource/ibm-plex-sans/400.css";
import "@fontsource/ibm-plex-sans/500.css";
import "@fontsource/ibm-plex-sans/600.css";
import "@fontsource-variable/source-serif-4";
import "./app/ledger.css";
import type { Catalogue } from "./shared/words/catalogue";
import { language } from "./shared/words/language";
import { speak } from "./shared/words/named";

/** The languages that ship beside English: a file each, with all that the pages say. */
const languages = import.meta.glob<{ default: Catalogue }>("languages/*.ts");

const read = Object.entries(languages).find(([path]) => path.endsWith(`/${language()}.ts`))?.[1];
if (read) speak((await read()).default);
// Only now: what is loaded before a language is spoken would stay English.
const { start } = await import("./app/start");
const root = document.getElementById("root");
if (root) start(root);
