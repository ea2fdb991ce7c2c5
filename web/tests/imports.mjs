// What each source file takes from where: node imports.mjs FOLDER prints {file: [what it imports, as written]} as JSON.
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import ts from "typescript";

const folder = process.argv[2];
const found = {};
for (const name of readdirSync(folder, { recursive: true })) {
  if (/\.tsx?$/.test(name)) {
    found[name] = ts.preProcessFile(readFileSync(join(folder, name), "utf8")).importedFiles.map((x) => x.fileName);
  }
}
console.log(JSON.stringify(found));
