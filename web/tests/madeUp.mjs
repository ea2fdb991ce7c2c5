// Writes a made-up language from the English catalogues: the same file that somebody would write by hand for a real one.
// Every letter of what people read has an accent and vowels stand twice, so that what stays English, or is cut, is seen.
import fs from "node:fs";
import path from "node:path";
import ts from "typescript";

const WORDS = path.resolve(import.meta.dirname, "../src/shared");
const LETTERS = "aābḃcčdďeēfḟgğhĥiījĵkķlļmṁnňoōpṗqǫrřsštťuūvṽwŵxẋyŷzž";
const accent = new Map([...LETTERS].flatMap((c, i, all) => (i % 2 ? [] : [[c, all[i + 1]]])));
const capital = (c, made) => (c === c.toLowerCase() ? made : made.toUpperCase());

/** A text in the made-up language: as long as words are elsewhere, with no letter of English left. */
const madeUp = (text) =>
  text.replace(/[a-z]/gi, (c) => {
    const made = capital(c, accent.get(c.toLowerCase()));
    return "aeo".includes(c.toLowerCase()) ? made + made.toLowerCase() : made;
  });

/** Where in a source the texts stand that people read: not what keys, comparisons and members are called. */
function textsIn(file, source) {
  const found = [];
  const visit = (node) => {
    const { parent } = node;
    const isKey = ts.isPropertyAssignment(parent ?? node) && parent.name === node;
    const compared = parent && ts.isBinaryExpression(parent) && /^[=!]==$/.test(parent.operatorToken.getText());
    const indexed = parent && ts.isElementAccessExpression(parent);
    const chosen = parent && ts.isArrayLiteralExpression(parent) && inPairs(parent) && parent.elements[0] === node;
    const typed = parent && (ts.isLiteralTypeNode(parent) || ts.isImportDeclaration(parent));
    const called = parent && ts.isCallExpression(parent) && ts.isPropertyAccessExpression(parent.expression);
    if (ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node)) {
      if (!(isKey || compared || indexed || chosen || typed || called))
        found.push([node.getStart() + 1, node.getEnd() - 1]);
    } else if (ts.isTemplateHead(node) || ts.isTemplateMiddle(node))
      found.push([node.getStart() + 1, node.getEnd() - 2]);
    else if (ts.isTemplateTail(node)) found.push([node.getStart() + 1, node.getEnd() - 1]);
    ts.forEachChild(node, visit);
  };
  const inPairs = (list) => {
    const call = list.parent?.parent;
    return call && ts.isCallExpression(call) && call.expression.getText() === "pairs";
  };
  visit(ts.createSourceFile(file, source, ts.ScriptTarget.Latest, true));
  return found.sort((a, b) => b[0] - a[0]);
}

/** The catalogues that there are, each with its source. */
function catalogues() {
  const rooms = fs.readdirSync(`${WORDS}/words`).map((f) => `${WORDS}/words/${f}`);
  const files = [`${WORDS}/words.ts`, ...rooms].map((file) => [file, fs.readFileSync(file, "utf8")]);
  return files.filter(([, source]) => source.includes(" = say({"));
}

/** One file with all catalogues, in the made-up language. */
function madeUpCatalogue() {
  const parts = catalogues().map(([file, english]) => {
    let source = english;
    for (const [from, to] of textsIn(file, source))
      source = source.slice(0, from) + madeUp(source.slice(from, to)) + source.slice(to);
    source = source.replace(/^import [^;]*;$/gm, "").replace(/^ {2}\.\.\.\w+,$/gm, "");
    return `(() => { ${source.replace(/export const (\{ signs \}|words) = say\(/, "return (")} })()`;
  });
  const named = JSON.stringify(`${WORDS}/words/named`);
  return `import { named, pairs, plural } from ${named};\nexport default Object.assign({}, ${parts.join(",\n")});\n`;
}

/** The English texts that are one piece. */
const texts = () =>
  catalogues().flatMap(([file, source]) => textsIn(file, source).map(([from, to]) => source.slice(from, to)));

if (process.argv[2] === "--texts") console.log(JSON.stringify(texts()));
else if (process.argv[2]) fs.writeFileSync(process.argv[2], madeUpCatalogue());
