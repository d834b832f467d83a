// Fails where a class is styled in two files, or where a class is styled that nothing in the front end names.
//
// A rule styles the first class of its last part: `.slip .key` styles `key`. What a place wants of a shared part it says by
// a value of its own (`.slip { --key-flex: none }`), so that each class has one home. What MUI draws is left out.
import fs from 'node:fs';
import path from 'node:path';
import postcss from 'postcss';

const files = fs.readdirSync('src', { recursive: true }).map((name) => path.join('src', String(name)));
const css = files.filter((name) => name.endsWith('.css'));
const code = files
  .filter((name) => /\.tsx?$/.test(name) && !/\.gen\.ts|\.test\./.test(name))
  .map((name) => fs.readFileSync(name, 'utf8'))
  .join('\n');

/** The class that a selector styles; null for an element, or for a class that only narrows an element. */
function styled(selector) {
  const last = selector
    .replace(/:(not|is|where|has)\([^)]*\)|\[[^\]]*\]/g, '')
    .split(/\s*[\s>+~]\s*/)
    .pop();
  return last.match(/^\.([a-zA-Z][\w-]*)/)?.[1] ?? null;
}

const homes = new Map();
const named = new Set();
for (const file of css) {
  postcss.parse(fs.readFileSync(file, 'utf8'), { from: file }).walkRules((rule) => {
    if (rule.parent.type === 'atrule' && rule.parent.name.endsWith('keyframes')) return;
    for (const selector of rule.selectors) {
      for (const [, name] of selector.matchAll(/\.([a-zA-Z][\w-]*)/g)) named.add(name);
      const name = styled(selector);
      if (name && !name.startsWith('Mui')) homes.set(name, (homes.get(name) ?? new Set()).add(file));
    }
  });
}

const twice = [...homes].filter(([, where]) => where.size > 1);
for (const [name, where] of twice) console.log(`.${name} is styled in ${[...where].sort().join(' and ')}`);
const unused = [...named].filter(
  (name) => !name.startsWith('Mui') && !new RegExp(`(?<![\\w-])${name}(?![\\w-])`).test(code),
);
for (const name of unused) console.log(`.${name} is styled, and nothing has it`);
console.log(`${homes.size} classes in ${css.length} files`);
process.exitCode = twice.length + unused.length > 0 ? 1 : 0;
