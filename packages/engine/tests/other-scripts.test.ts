/** Names in another script: found as what is meant when nothing else is, by the tables of the CLDR. */
import { completeTuning } from '@yucca/contract';
import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { search } from '../src/index.ts';
import { inOtherScripts } from '../src/query/match/other-scripts.ts';
import { buildTrie, wordAt } from '../src/segment/trie.ts';
import { tokens } from '../src/text/tokens.ts';
import { generationOf } from './arbitraries.ts';

const fold = (text: string): string => tokens(text)[0]!.text;

test.each([
  ...[
    ['Москва', 'Moskva'],
    ['Щукин', 'Shchukin'],
    ['Жуковский', 'Zhukovskiy'],
    ['Жуковский', 'Zukovskij'],
  ],
  ...[
    ['Чайковский', 'Chaykovskiy'],
    ['Ёлка', 'Yolka'],
    ['Мышь', 'mysh'],
    ['Львів', 'Lviv'],
    ['Київ', 'Kyiv'],
  ],
  ...[
    ['София', 'Sofia'],
    ['Пловдив', 'Plovdiv'],
    ['Београд', 'Beograd'],
    ['Скопје', 'Skopje'],
  ],
  ...[
    ['Αθήνα', 'Athina'],
    ['Θεσσαλονίκη', 'Thessaloniki'],
    ['Ευρώπη', 'Evropi'],
    ['Ολυμπία', 'Olympia'],
  ],
  ...[
    ['Երևան', 'Yerevan'],
    ['თბილისი', 'Tbilisi'],
    ['ქუთაისი', 'Kutaisi'],
    ['שלום', 'shalom'],
  ],
  ...[
    ['محمد', 'Muhammad'],
    ['سلام', 'salam'],
    ['بغداد', 'Baghdad'],
    ['تهران', 'Tehran'],
  ],
] as [string, string][])('%s is %s, and the reverse', (foreign, latin) => {
  const [theirs, ours] = [fold(foreign), fold(latin)];
  const trie = buildTrie([...new Set(['other', theirs, ours, 'слово', 'λόγος'])].sort());
  const readings = (typed: string): string[] => inOtherScripts(trie, typed).map((term) => wordAt(trie, term));
  expect(readings(ours)).toEqual([theirs]);
  expect(readings(theirs)).toEqual([ours]);
});

test('what is another word is none', () => {
  const trie = buildTrie(['москва', 'мост', 'розы'].sort());
  for (const typed of ['moskv', 'moskvas', 'most1', 'rose', '', 'мост'])
    expect(inOtherScripts(trie, typed)).toEqual([]);
});

test('a hostile word is given up, not followed for ever', () => {
  const letters = [...'אבוי'];
  const words = letters.flatMap((a) =>
    letters.flatMap((b) => letters.flatMap((c) => letters.map((d) => a + b + c + d))),
  );
  const trie = buildTrie([...words, ...words.flatMap((a) => words.slice(0, 40).map((b) => a + b))].sort());
  const start = performance.now();
  inOtherScripts(trie, 'auiouauiouauiouauiouauio');
  inOtherScripts(trie, 'וויויאאוויויאאוויוי');
  expect(performance.now() - start).toBeLessThan(2_000);
});

test('it is told when nothing was found, the most common first, and finds nothing by itself', () => {
  const tuning = completeTuning({ search: [{ field: 'name' }], language: 'ru' });
  const list = ['Ива плакучая', 'Ива', 'Ыва', 'Rose'].map((name, i) => ({ id: `${i}`, name }));
  const answer = search(generationOf(list, tuning, [2]), tuning, { q: 'iva' });
  expect(answer.total).toBe(0);
  expect(answer.understood.words).toMatchObject([{ text: 'iva', as: [], nearest: 'ива' }]);
  expect(search(generationOf(list, tuning), tuning, { q: 'росе' }).understood.words[0]!.nearest).toBe('rose');
  // In hidden records alone it is not told.
  const hidden = search(generationOf(list, tuning), tuning, { q: 'iva' }, { forcedFilter: "name = 'Rose'" });
  expect(hidden.understood.words[0]).not.toHaveProperty('nearest');
});

test('the table is what the package makes of it today', () => {
  const root = path.join(__dirname, '../../..');
  const tsx = path.join(root, 'node_modules/tsx/dist/cli.mjs');
  const { stdout, stderr } = spawnSync(process.execPath, [tsx, 'scripts/latin-spellings.mjs', '--print'], {
    cwd: root,
  });
  expect(stderr.toString()).toBe('');
  expect(stdout.toString()).toBe(readFileSync(path.join(root, 'packages/engine/src/text/latin-spellings.ts'), 'utf8'));
});
