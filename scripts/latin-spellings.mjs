// Writes packages/engine/src/text/latin-spellings.ts: how letters of other scripts are written in Latin ones, by the
// rules of the Unicode CLDR (UTS #35, part 2, Transforms). Run it with tsx when cldr-transforms has a new version;
// `--print` only prints it.
//
// Of the rules only what they make of one or two letters is read, without what must stand before or behind: a name is
// written by many systems, and one that fits none as a whole is still the same name.
import { readFileSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { foldLetters } from '../packages/engine/src/text/fold.ts';

const ALPHABETS = [
  ...['Cyrillic-Latin', 'Russian-Latin-BGN', 'Ukrainian-Latin-BGN', 'Belarusian-Latin-BGN', 'Bulgarian-Latin-BGN'],
  ...['Serbian-Latin-BGN', 'Macedonian-Latin-BGN', 'Kazakh-Latin-BGN', 'Kirghiz-Latin-BGN', 'Mongolian-Latin-BGN'],
  ...['Greek-Latin', 'Greek-Latin-BGN', 'Greek_Latin_UNGEGN', 'Armenian-Latin-BGN', 'Georgian-Latin'],
  ...[
    'Georgian-Latin-BGN',
    'Hebrew-Latin',
    'Hebrew-Latin-BGN',
    'Arabic-Latin',
    'Arabic-Latin-BGN',
    'Persian-Latin-BGN',
  ],
];
const MOST_LETTERS = 2;

const folder = path.dirname(createRequire(import.meta.url).resolve('cldr-transforms/package.json'));

/** What one file of rules makes of letters: pairs of them, folded, and their Latin spelling. */
function* spellingsIn(name) {
  const source = readFileSync(path.join(folder, 'transforms', `${name}.txt`), 'utf8');
  const variables = new Map();
  const filled = (text) => text.replace(/\$\w+/g, (variable) => variables.get(variable) ?? variable);
  for (const line of source.split('\n')) {
    const rule = line.replace(/#.*$/, '').replace(/;\s*$/, '').trim();
    const variable = /^(\$\w+)\s*=(.*)$/.exec(rule);
    if (variable) variables.set(variable[1], plain(variable[2]));
    const [, from, to] = /^([^→↔]*)[→↔]([^→↔]*)$/.exec(rule) ?? [];
    if (from === undefined || rule.startsWith(':')) continue;
    const latin = foldLetters(plain(filled(inside(to))));
    if (!/^[a-z]*$/.test(latin)) continue;
    for (const letters of lettersOf(plain(filled(inside(from))))) {
      const folded = foldLetters(letters);
      const count = [...folded].length;
      if (count > 0 && count <= MOST_LETTERS && /^[^\p{Script=Latin}\P{L}]+$/u.test(folded)) yield [folded, latin];
    }
  }
}

/** A side of a rule without what must stand before and behind: `before { it } behind`. */
const inside = (side) => side.replace(/^.*\{/, '').replace(/\}.*$/, '');

const plain = (text) =>
  text
    .replace(/\\u([0-9a-fA-F]{4})/g, (_, code) => String.fromCharCode(parseInt(code, 16)))
    .replace(/['|\s\u200e]/g, '');

/** One text, or each letter of a set that names letters alone. */
function lettersOf(text) {
  const set = /^\[([^[\]\-^&:]*)\]$/.exec(text);
  return set ? [...set[1]] : [text];
}

/** The file as it has to be. */
function written() {
  const table = new Map();
  for (const name of ALPHABETS)
    for (const [letters, latin] of spellingsIn(name)) table.set(letters, (table.get(letters) ?? new Set()).add(latin));
  const lines = [...table]
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([letters, spellings]) => `${letters} ${[...spellings].sort().join(',')}`);
  const { version } = JSON.parse(readFileSync(path.join(folder, 'package.json'), 'utf8'));
  const rows = [];
  for (const line of lines) {
    if (rows.length > 0 && rows.at(-1).length + line.length < 110) rows[rows.length - 1] += `;${line}`;
    else rows.push(line);
  }
  return `/**
 * How letters of other scripts are written in Latin ones, folded: letters, a space, their spellings. Made from the
 * transforms of the Unicode CLDR ${version} by scripts/latin-spellings.mjs; do not change it by hand.
 */
export const LATIN_SPELLINGS =
${rows.map((row, i) => `  ${i === 0 ? '' : "';' +\n  "}'${row}'`).join(' +\n')};
`.replaceAll("' +\n  ';' +\n  '", ";' +\n  '");
}

const file = path.join(path.dirname(fileURLToPath(import.meta.url)), '../packages/engine/src/text/latin-spellings.ts');
if (process.argv[2] === '--print') process.stdout.write(written());
else writeFileSync(file, written());
