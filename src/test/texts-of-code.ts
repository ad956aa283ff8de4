import { readdirSync, readFileSync } from "node:fs";
import path from "node:path";
import ts from "typescript";

/** A text that the code holds, and where. */
export interface CodeText {
  readonly file: string;
  readonly line: number;
  readonly text: string;
}

/** What stands in quotes or between tags and has two words or more, or a capital: what people may read. Names of classes, addresses and SQL are none. */
export function textsOfCode(folder: string): CodeText[] {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const found = path.join(folder, entry.name);
    if (entry.isDirectory()) return textsOfCode(found);
    return /\.tsx?$/.test(entry.name) && !/\.test\./.test(entry.name) ? textsOfFile(found) : [];
  });
}

function textsOfFile(file: string): CodeText[] {
  const kind = file.endsWith("x") ? ts.ScriptKind.TSX : ts.ScriptKind.TS;
  const source = ts.createSourceFile(file, readFileSync(file, "utf8"), ts.ScriptTarget.Latest, true, kind);
  const texts: CodeText[] = [];
  const visit = (node: ts.Node): void => {
    if (ts.isImportDeclaration(node) || ts.isLiteralTypeNode(node)) return;
    const text = textOf(node);
    if (text !== null && isForPeople(node, text)) {
      const { line } = source.getLineAndCharacterOfPosition(node.getStart());
      texts.push({ file, line: line + 1, text });
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
  return texts;
}

/** A text with `{}` for what is put into it. */
function textOf(node: ts.Node): string | null {
  if (ts.isJsxText(node)) return node.text.replace(/\s+/g, " ").trim();
  if (ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node)) return node.text;
  if (ts.isTemplateExpression(node))
    return node.head.text + node.templateSpans.map((span) => `{}${span.literal.text}`).join("");
  return null;
}

const SQL = /^\s*(SELECT|INSERT|UPDATE|DELETE|CREATE|WITH|ALTER)\b|\b(items|hand_texts)\.|json_each/;
const SILENT_ATTRIBUTES = new Set(["className", "href", "type", "role", "style", "key", "name", "id", "value"]);

function isForPeople(node: ts.Node, text: string): boolean {
  if (!/[A-Za-z]{2}/.test(text) || SQL.test(text) || /[?&]\w+=/.test(text)) return false;
  const { parent } = node;
  if (ts.isJsxAttribute(parent) && SILENT_ATTRIBUTES.has(parent.name.getText())) return false;
  if (/(^|\s)(flex|grid|border|px-|py-|text-\[|bg-|min-w|absolute|narrow)/.test(text)) return false;
  return ts.isJsxText(node) || / /.test(text.trim()) || /^[A-Z]/.test(text);
}
