/** @jest-environment node */
import { readFileSync } from 'node:fs';
import path from 'node:path';

const DOCS = path.join(__dirname, '../../../docs');

// Those files are built and driven in Chromium by e2e/tests/kit-elsewhere.test.ts.
test('every snippet of the guide stands in a file of its application', () => {
  const guide = readFileSync(path.join(DOCS, 'guide.md'), 'utf8');
  const snippets = [...guide.matchAll(/<!-- (\S+) -->\s*```\w+\n([\s\S]*?)\n```/g)];
  expect(snippets.length).toBeGreaterThan(5);
  for (const [, file, text] of snippets) expect(readFileSync(path.join(DOCS, 'guide', file!), 'utf8')).toContain(text);
  // And there is no other.
  expect(guide.match(/```\w+\n/g)).toHaveLength(snippets.length);
});
