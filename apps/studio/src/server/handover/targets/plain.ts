import { cardBuilder } from '../written/plain/card';
import { ADDRESS_FILE, DOM_FILE, FIELD_FILE, FILTERS_FILE } from '../written/plain/parts';
import { mainFile, resultsFile, sourcesFile } from '../written/plain/page';
import { shelvesFile } from '../written/plain/shelves';
import { tableFile } from '../written/plain/table';
import { VOICE_FILE } from '../written/plain/voice';
import { designFile, hasOwnSections } from '../written/design';
import { facetsFile, textsFile } from '../written/facts';
import { filtersNamed } from '../written/project';
import { projectStyles } from '../written/styles';
import { viteFiles } from '../written/vite';
import type { Target } from './target';

/** A project without a framework: the core of the kit and the DOM, for whoever has another framework or none. */
export const plain: Target = (what) => {
  const { page } = what;
  const styles = projectStyles(page);
  return {
    ...viteFiles(what, {
      dependencies: [],
      devDependencies: [],
      compiler: {},
      body: '<header id="header"></header>\n    <main id="search"></main>',
      entry: 'src/main.ts',
      readme: {
        about: 'The search page in TypeScript and the DOM, without a framework.',
        files: [
          ['src/main.ts', 'the page: its state, its address, and what is drawn when either changes'],
          ['src/address.ts', 'keeps the state and the address in step: Back, links, reloads'],
          ['src/field.ts', 'the search field, a combobox; what it offers is in `src/sources.ts`'],
          ...(page.typing?.voice ? [['src/voice.ts', 'a button that takes a query by voice'] as const] : []),
          ...filtersNamed(what, ['src/filters.ts', 'the filters; which, and in what order, is in `src/facets.ts`']),
          page.layout === 'table'
            ? ['src/results.ts', 'the results and their pages; the table is in `src/table.ts`']
            : ['src/results.ts', 'the list and its pages; one result is in `src/card.ts`'],
          ...(page.shelves ? [['src/shelves.ts', 'rows of records beside the results'] as const] : []),
          ['src/dom.ts', 'makes elements'],
        ],
        more: (page.layout === 'places' ? NO_MAP : '') + IN_ANOTHER_FRAMEWORK,
      },
    }),
    ...Object.fromEntries(Object.entries(styles).map(([name, css]) => [`src/${name}`, css])),
    'src/main.ts': mainFile(what),
    'src/address.ts': ADDRESS_FILE,
    'src/dom.ts': DOM_FILE,
    'src/field.ts': FIELD_FILE,
    'src/sources.ts': sourcesFile(page),
    ...(hasOwnSections(page) && { 'src/design.ts': designFile(page) }),
    'src/results.ts': resultsFile(page),
    'src/card.ts': cardBuilder(page),
    ...(page.typing?.voice && { 'src/voice.ts': VOICE_FILE }),
    ...(page.layout === 'table' && { 'src/table.ts': tableFile(page) }),
    ...(page.shelves && { 'src/shelves.ts': shelvesFile(page) }),
    ...(page.facets.length > 0 && { 'src/filters.ts': FILTERS_FILE }),
    'src/facets.ts': facetsFile(page),
    'src/texts.ts': textsFile(page, true),
  };
};

/** What the kit draws with React alone. */
const NO_MAP = `The map of the design is not in this folder: it is a part of React in the kit (\`ResultMap\`). Results are a list here.

`;

const IN_ANOTHER_FRAMEWORK = `## In another framework

Two objects hold everything, and neither knows how it is drawn:

- \`SearchState\` (in \`main.ts\`): what the visitor asks for and the newest answer. \`subscribe\` calls back after every
  change and \`snapshot\` answers an object that is another one after each: a store of Svelte, a \`shallowRef\` of Vue or a
  signal takes it as it is. \`ask\` changes what is asked for; an answer that a newer one has overtaken never gets there.
- \`Autocomplete\` (in \`field.ts\`): what the field offers and which row is pointed at, in the same form.

The address is the third (\`address.ts\`): a function writes a query into it, an event of the browser reads it again.
Typing replaces the entry of the history, a choice adds one: so Back undoes what a person thinks of as a step.

`;
