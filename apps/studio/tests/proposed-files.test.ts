/** What is proposed for each file of the folder, as the studio shows it: where its records are, a key, rules. */
import type { FieldRule } from '@yucca/contract';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { inspectFile } from '../src/inspect/inspect-file';

const FILES = path.join(__dirname, '../../../e2e/fixtures/files');
const EXPECTED = JSON.parse(readFileSync(path.join(FILES, 'expected.json'), 'utf8')) as Record<
  string,
  { at: string | null; key: string; rules?: FieldRule[] }
>;

test.each(Object.entries(EXPECTED))('%s', async (name, { at, key, rules = [] }) => {
  const found = await inspectFile(new File([readFileSync(path.join(FILES, name))], name));
  if (!found.ok) throw new Error(found.reason);
  const taken = found.rules.filter(({ rule, isDoubtful }) => !isDoubtful && rule.field !== found.key.field);
  expect({ at: found.at, key: found.key.field, rules: taken.map(({ rule }) => rule) }).toEqual({ at, key, rules });
});
