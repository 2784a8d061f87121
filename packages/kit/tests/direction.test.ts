/** @jest-environment node */
/** The style sheets know no left and no right: a page that is read from the right has all of it the other way round. */
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';

const folder = path.join(__dirname, '../src/styles/search');

test.each(readdirSync(folder))('%s', (name) => {
  const css = readFileSync(path.join(folder, name), 'utf8').replace(/\/\*.*?\*\//gs, '');
  const sides = css.match(
    /^\s*(((margin|padding|border|scroll-\w+)-)?(left|right)(-\w+)?|(text-align|float|clear): *(left|right)).*$/gm,
  );
  expect(sides).toBeNull();
  // Four values: the second and the fourth are sides, and are the same.
  const four = [...css.matchAll(/^\s*(?:margin|padding|inset): ([^;()]+);$/gm)].map(([, values]) =>
    values!.split(/\s+/),
  );
  for (const values of four) if (values.length === 4) expect(values[1]).toBe(values[3]);
});
