import { generate, parse, walk } from 'css-tree';
import fc from 'fast-check';
import { readOwnCss } from '../src/text/own-css';

const ROOT = '[data-yucca][data-yucca][data-yucca]';
const css = (source: string): string => {
  const { css: made, problems } = readOwnCss(source);
  expect(problems).toEqual([]);
  return made;
};

test('rules hang below the page, whatever they are for', () => {
  expect(css('a, b > c { color: red }')).toBe(`${ROOT} a,${ROOT} b>c{color:red}`);
  expect(css(':scope { --yucca-corner: 0 } :scope:hover h2 { color: red }')).toBe(
    `${ROOT}{--yucca-corner:0}${ROOT}:hover h2{color:red}`,
  );
  expect(css('html, body, :root { display: none }')).toBe(`${ROOT} html,${ROOT} body,${ROOT} :root{display:none}`);
  expect(css('@media (min-width: 40em) { a { color: red } }')).toBe(`@media (min-width:40em){${ROOT} a{color:red}}`);
  expect(css('@keyframes turn { from { opacity: 0 } to { opacity: 1 } }')).toBe(
    '@keyframes turn{from{opacity:0}to{opacity:1}}',
  );
  expect(css('a { &:hover { color: red } }')).toBe(`${ROOT} a{&:hover{color:red}}`);
  expect(css('a { background: url(/files/leaf.svg) }')).toContain('url(/files/leaf.svg)');
  expect(css('a { background: url("data:image/png;base64,AA==") }')).toContain('data:image/png');
});

test.each([
  ['@import "x.css"; a { color: red }', '@import'],
  ['@charset "utf-8"; a { color: red }', '@charset'],
  ['@layer top { a { color: red } }', '@layer'],
  ['a { background: url(https://elsewhere.example/a.png) }', 'leads elsewhere'],
  ['a { background: url(//elsewhere.example/a.png) }', 'leads elsewhere'],
  ['a { background: url(/\\elsewhere.example) }', 'leads elsewhere'],
  ['a { background: url("/\t/elsewhere.example") }', 'leads elsewhere'],
  ['a { background: URL("HTTPS://elsewhere.example") }', 'leads elsewhere'],
  ['a { background: \\75rl(https://elsewhere.example) }', ''],
  ['a { background: image-set("https://elsewhere.example/a.png" 1x) }', 'leads elsewhere'],
  ['a { --x: url(https://elsewhere.example) }', 'leads elsewhere'],
  ['a { background: var(--x, url(https://elsewhere.example)) }', 'leads elsewhere'],
  ['a { background: url(data:text/html,x) }', 'leads elsewhere'],
  ['@font-face { font-family: x; src: url(https://elsewhere.example/x.woff2) }', 'leads elsewhere'],
  ['a { position: fixed }', 'outside of the page'],
  ['a { behavior: url(/x.htc) }', 'not taken'],
  ['@keyframes k, url(https://elsewhere.example) { from { color: red } }', ''],
  ['@media url(https://elsewhere.example) { a { color: red } }', ''],
  ['@supports (background: url(https://elsewhere.example)) { a { color: red } }', 'leads elsewhere'],
  ['a { color: red', ''],
  ['a { color }', 'cannot be read'],
  ['a { colour: } }', ''],
])('%s', (source, reason) => {
  const { css: made, problems } = readOwnCss(`\n${source}`);
  expect(made).not.toMatch(/elsewhere|import|charset|layer|fixed|behavior|text\/html/i);
  if (reason === '') return;
  expect(problems.map(({ detail }) => detail).join()).toContain(reason);
  expect(problems[0]!.line).toBe(2);
});

test('no text leaves the page, and none ends the style element', () => {
  const piece = fc.oneof(
    fc.constantFrom(
      ...['a', '{', '}', ';', ':', ',', '@import', '@media all', '"', "'", '/*', '*/', '\\', '(', ')', '</style>'],
      ...['url(', 'https://x.example', '//x.example', '/x.svg', 'color:red', '--y:', 'var(--y,', ':scope', 'body', '&'],
      ...['position:fixed', 'image-set(', '@layer x', '@keyframes k', 'from', '\n', ' ', '\u202e', '\0', '<!--', '-->'],
    ),
    fc.string({ maxLength: 3 }),
  );
  fc.assert(
    fc.property(
      fc.array(piece, { maxLength: 24 }).map((pieces) => pieces.join('')),
      (source) => {
        const { css: made } = readOwnCss(source);
        expect(made.toLowerCase()).not.toContain('</style');
        walk(parse(made), function visit(node) {
          if (node.type === 'Url') expect(node.value).toMatch(/^(\/(?![/\\])[^\\\s]*$|data:image\/)/);
          const isPlain = this.atrule === null || !this.atrule.name.endsWith('keyframes');
          if (node.type !== 'Rule' || (this.rule !== null && this.rule !== node) || !isPlain) return;
          for (const selector of node.prelude.type === 'SelectorList' ? node.prelude.children : [])
            expect(generate(selector).startsWith(ROOT)).toBe(true);
        });
      },
    ),
    { numRuns: 2_000 },
  );
});
