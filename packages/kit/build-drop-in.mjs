// Makes the script that puts a search page on any site.
import { build } from 'esbuild';
import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { minify } from 'terser';
import { fileURLToPath } from 'node:url';

const source = (name) => path.join(path.dirname(fileURLToPath(import.meta.url)), 'src', name);

/** What few pages use: the drop-in fetches it when its page does. */
const FEW_USE = new RegExp(
  `/(${[
    ...['result-map', 'near-choice', 'facet-dates', 'facet-select', 'facet-steps', 'facet-tree', 'more-results'],
    ...['nothing-found', 'pages-up-to', 'result-table', 'badges', 'shelves', 'shelf-requests', 'own-sources'],
    ...['record-link', 'sheet-focus', 'offer-preview', 'as-attributes-say', 'page-voice'],
  ].join('|')})\\.tsx?$`,
);

const fetchedLater = {
  name: 'fetched-later',
  setup({ onResolve }) {
    onResolve({ filter: FEW_USE }, () => ({ path: source('drop-in/small/more.ts') }));
  },
};

/** Puts one module in place of another. */
const instead = (filter, path) => ({
  name: `instead-${path}`,
  setup({ onResolve }) {
    onResolve({ filter }, () => ({ path: source(path) }));
  },
});
const withoutPaths = instead(/\/address-path\.ts$/, 'drop-in/small/no-paths.ts');
const styledAsField = instead(/\/drop-in\.css$/, 'styles/drop-in-field.css');
const inDropIn = instead(/\/in-package\.ts$/, 'drop-in/small/in-drop-in.ts');
const withoutTexts = instead(/\/english\.ts$/, 'drop-in/small/no-texts.ts');
const lentViews = instead(/\/watch-views\.ts$/, 'drop-in/small/lent-views.ts');
const lentTexts = instead(/\/use-texts\.ts$/, 'drop-in/small/lent-texts.ts');

/**
 * The drop-in: the same components, drawn by Preact so that the script stays small; beside it, unless there is none,
 * the script with what few pages use and the one that tells what visitors do. `entry` defines the element.
 */
export async function buildDropIn(entry, outfile, hasMore = true) {
  const shared = {
    bundle: true,
    minify: true,
    target: 'es2022',
    jsx: 'automatic',
    loader: { '.css': 'text' },
    legalComments: 'none',
    logLevel: 'error',
  };
  const more = outfile.replace(/\.js$/, '-more.js');
  const insights = outfile.replace(/\.js$/, '-insights.js');
  await build({
    ...shared,
    entryPoints: [entry],
    outfile,
    format: 'iife',
    // The address of the other script is known where the page is.
    supported: { 'dynamic-import': true },
    alias: {
      react: source('drop-in/small/react.ts'),
      'react/jsx-runtime': 'preact/jsx-runtime',
      'react-dom/client': source('drop-in/small/react-dom.ts'),
    },
    plugins: [
      minifiedStyles,
      withoutTexts,
      withoutPaths,
      inDropIn,
      lentViews,
      ...(hasMore ? [fetchedLater] : [styledAsField]),
    ],
  });
  if (hasMore) {
    await build({
      ...shared,
      entryPoints: [source('drop-in/more.ts')],
      outfile: more,
      format: 'esm',
      alias: {
        react: source('drop-in/small/lent-react.ts'),
        'react/jsx-runtime': source('drop-in/small/lent-jsx.ts'),
      },
      plugins: [minifiedStyles, withoutTexts, withoutPaths, lentTexts],
    });
    await build({ ...shared, entryPoints: [source('drop-in/insights.ts')], outfile: insights, format: 'esm' });
  }
  // A second, slower look takes another three per cent off what goes over the line.
  const compress = { passes: 3, pure_getters: true, unsafe_arrows: true };
  for (const [file, module] of [
    [outfile, false],
    ...(hasMore
      ? [
          [more, true],
          [insights, true],
        ]
      : []),
  ]) {
    const { code } = await minify(readFileSync(file, 'utf8'), { ecma: 2022, compress, toplevel: true, module });
    writeFileSync(file, code);
  }
}

/** Style sheets that are bundled as text are minified first. */
const minifiedStyles = {
  name: 'minified-styles',
  setup({ onLoad }) {
    onLoad({ filter: /\.css$/ }, async ({ path: file }) => {
      const { outputFiles } = await build({
        entryPoints: [file],
        bundle: true,
        minify: true,
        write: false,
        logLevel: 'error',
      });
      return { contents: nested(outputFiles[0].text), loader: 'text' };
    });
  },
};

/**
 * A style sheet whose every rule hangs below `[data-yucca]`, with that said once (CSS Nesting): it is a twentieth of
 * the script otherwise.
 */
function nested(css) {
  const inside = css
    .trim()
    .replaceAll('[data-yucca]', '&')
    .replace(/(^|[{},])& (?=[[:*])/g, '$1');
  // What custom properties hold is left as written by whoever makes style sheets small.
  const own = inside.replace(/(--y-[\w-]+): ([^;}]+)/g, (_, name, value) => `${name}:${value.replaceAll(', ', ',')}`);
  return `[data-yucca]{${own}}`;
}
