// Lists what people read in the front end, a line each: place, kind, text. `make lint` judges it with the book's
// texts and the Go sentences.
import { readFileSync } from "node:fs";
import ts from "typescript";

/** Names of properties and attributes whose value is shown; the kind of text each is. */
const shown = {
  label: "text",
  "aria-label": "text",
  title: "text",
  text: "text",
  says: "text",
  more: "text",
  right: "text",
  none: "text",
  placeholder: "text",
  go: "button",
  wants: "text",
};
const kinds = {
  Button: "button",
  button: "button",
  h1: "title",
  h2: "title",
  h3: "title",
  DialogTitle: "title",
};
const titled = new Set(["Page", "Section", "Listed"]);

const tagOf = (n) => (ts.isJsxElement(n) ? n.openingElement.tagName.getText() : "");

/** What an expression says, with a figure for each part that is filled in. */
function wordsOf(e) {
  if (ts.isStringLiteralLike(e)) return [e.text];
  if (ts.isTemplateExpression(e))
    return [e.head.text + e.templateSpans.map((s) => `0${s.literal.text}`).join("")];
  if (ts.isConditionalExpression(e)) return [...wordsOf(e.whenTrue), ...wordsOf(e.whenFalse)];
  if (ts.isJsxExpression(e) && e.expression) return wordsOf(e.expression);
  if (ts.isParenthesizedExpression(e)) return wordsOf(e.expression);
  if (ts.isBinaryExpression(e)) return [...wordsOf(e.left), ...wordsOf(e.right)];
  return [];
}

/** The running text of an element: its words with a figure for what is filled in, apart at elements within. */
function running(n) {
  return n.children
    .map((c) => {
      if (ts.isJsxText(c)) return c.text.replace(/^\s*\n\s*|\s*\n\s*$/g, "").replace(/\s*\n\s*/g, " ");
      if (!ts.isJsxExpression(c)) return "0";
      const words = c.expression ? wordsOf(c.expression) : [];
      return c.expression && ts.isStringLiteralLike(c.expression) ? words[0] : "0";
    })
    .join("")
    .replace(/ +/g, " ")
    .trim();
}

function texts(file) {
  const source = ts.createSourceFile(file, readFileSync(file, "utf8"), ts.ScriptTarget.Latest, true);
  const put = (n, kind, text) => {
    if (!/[A-Za-z]{2}/.test(text) || /(^| )(bg|text|border|px|grow|basis)-/.test(text)) return;
    const line = source.getLineAndCharacterOfPosition(n.getStart()).line + 1;
    console.log(
      [
        `web/${file}`,
        line,
        kind,
        text.replace(/\s+/g, (s) => (s.length > 1 && !s.includes("\n") ? "  " : " ")),
      ].join("\t"),
    );
  };
  const visit = (n) => {
    if (ts.isJsxElement(n) || ts.isJsxFragment(n)) {
      const kind = kinds[tagOf(n)] ?? "text";
      put(n, kind, running(n));
      for (const c of n.children)
        if (ts.isJsxExpression(c) && c.expression && !ts.isStringLiteralLike(c.expression))
          for (const w of wordsOf(c.expression)) put(c, kind, w);
    } else if (ts.isJsxAttribute(n) || ts.isPropertyAssignment(n)) {
      const name = n.name.getText().replace(/"/g, "");
      const kind = name === "title" && titled.has(n.parent.parent.tagName?.getText()) ? "title" : shown[name];
      if (kind && n.initializer) for (const w of wordsOf(n.initializer)) put(n, kind, w);
    } else if (ts.isCallExpression(n) && ["useKey", "line", "useTitle"].includes(n.expression.getText())) {
      const said = n.arguments[n.expression.getText() === "useTitle" ? 0 : 1];
      if (said) for (const w of wordsOf(said)) put(n, "text", w);
    }
    ts.forEachChild(n, visit);
  };
  visit(source);
}

for (const file of process.argv.slice(2)) texts(file);
