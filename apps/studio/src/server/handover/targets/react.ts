import { cardFile } from '../written/card';
import { designFile, hasDesign, isWholeView } from '../written/design';
import { facetsFile, linkFrom, textsFile, titleOf } from '../written/facts';
import { fieldFile } from '../written/field';
import { importsOf } from '../written/imports';
import { literal } from '../written/literal';
import { filtersFile, resultsFile, searchPageFile } from '../written/search-page';
import { partsNamed } from '../written/project';
import { projectStyles } from '../written/styles';
import { viteFiles } from '../written/vite';
import type { Files, TakenAway, Target } from './target';

/** A project of React and Vite: the designed page written out in the kit's parts. */
export const react: Target = (what) => ({
  ...viteFiles(what, {
    dependencies: ['react', 'react-dom'],
    devDependencies: ['@types/react', '@types/react-dom', '@vitejs/plugin-react'],
    compiler: { jsx: 'react-jsx' },
    body: '<div id="root"></div>',
    entry: 'src/main.tsx',
    readme: {
      about: 'The search page as a React project.',
      files: [
        ['src/search-page.tsx', 'the page: its state, and its parts in their places'],
        ...partsNamed(what, 'src/'),
      ],
      more: '',
    },
  }),
  ...sharedSources(what, 'src/'),
  'vite.config.ts': `import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({ plugins: [react()] });
`,
  'src/main.tsx': mainFile(what),
});

/** What the page is made of, the same in every project of React. */
export function sharedSources({ page }: TakenAway, folder: string): Files {
  const files: Files = {
    'facets.ts': facetsFile(page),
    'search-page.tsx': searchPageFile(page, 'in the browser'),
    'texts.ts': textsFile(page),
    ...(hasDesign(page) && { 'design.ts': designFile(page) }),
    // Pages of records show a card’s parts too.
    ...((!isWholeView(page) || folder === 'search/') && { 'card.tsx': cardFile(page) }),
    ...(!isWholeView(page) && {
      'field.tsx': fieldFile(page),
      'results.tsx': resultsFile(page),
      ...(page.facets.length > 0 && { 'filters.tsx': filtersFile() }),
    }),
    ...projectStyles(page),
  };
  return Object.fromEntries(Object.entries(files).map(([name, content]) => [folder + name, content]));
}

function mainFile({ page, server }: TakenAway): string {
  const links = page.header?.links ?? [];
  const own = page.css ? `import './own.css';\n` : '';
  const body = `
createRoot(document.getElementById('root')!).render(
  <>
    <header>
      <h1>${titleOf(page, server)}</h1>
      ${
        links.length === 0
          ? ''
          : `<nav aria-label="Links">
        ${links.map(({ label, href }) => `<a href={${literal(linkFrom(server, href))}}>{${literal(label)}}</a>`).join("{' '}\n")}
      </nav>`
      }
    </header>
    <main>
      <SearchPage />
    </main>
  </>,
);
`;
  const imports = importsOf(body, {
    'react-dom/client': 'createRoot',
    './search-page': 'SearchPage',
    './texts': 'TEXTS',
  });
  return `import '@yucca/kit/styles.css';\nimport './theme.css';\n${own}${imports}${body}`;
}
