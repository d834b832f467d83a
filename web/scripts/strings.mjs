// Prints every string of the front end that may be read by a person, as JSON lines: file, line, text.
import fs from 'node:fs';
import path from 'node:path';
import ts from 'typescript';

const CODE = /\.tsx?$/;
const NOT = /\.gen\.ts|\.test\.|testing\.tsx/;
// attributes that nobody reads
const UNREAD =
  /^(className|style|d|fill|stroke|viewBox|data-testid|id|key|role|href|to|type|name|size|transform|htmlFor)$/;

function* files(folder) {
  for (const entry of fs.readdirSync(folder, { withFileTypes: true })) {
    const name = path.join(folder, entry.name);
    if (entry.isDirectory()) yield* files(name);
    else if (CODE.test(name) && !NOT.test(name)) yield name;
  }
}

function textOf(node) {
  if (ts.isJsxText(node)) return node.text;
  if (ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node)) return node.text;
  if (ts.isTemplateHead(node) || ts.isTemplateMiddle(node) || ts.isTemplateTail(node)) return node.text;
  return '';
}

for (const name of files('src')) {
  const source = ts.createSourceFile(name, fs.readFileSync(name, 'utf8'), ts.ScriptTarget.Latest, true);
  const visit = (node) => {
    if (ts.isImportDeclaration(node) || ts.isLiteralTypeNode(node)) return;
    if (ts.isJsxAttribute(node) && UNREAD.test(node.name.getText())) return;
    const text = textOf(node).replace(/\s+/g, ' ').trim();
    const code = !ts.isJsxText(node) && /^[a-z_/{}.:]+$/.test(text); // a word of the API, an address
    if (/[A-Za-z] |[a-z]{4}/.test(text) && !code) {
      const { line } = source.getLineAndCharacterOfPosition(node.getStart());
      console.log(JSON.stringify([`web/${name}`, line + 1, text]));
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
}
