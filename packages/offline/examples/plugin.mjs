/**
 * A plugin of TypeDoc: every function, class and component that the kit exports gets its example, which runs on the
 * page. One without an example is an error. The example of `X` stands between `// #region X` and `// #endregion`.
 */
import { buildSync } from 'esbuild';
import { readdirSync, readFileSync, mkdirSync } from 'node:fs';
import path from 'node:path';
import { CommentTag, Comment, Converter, ReflectionKind } from 'typedoc';

const here = import.meta.dirname;
const root = path.join(here, '../../..');
const guide = path.join(root, 'docs/guide/app/src');

/** Entries whose exports are shown at work in an application of the guide: that of another framework, of a test. */
const IN_THE_GUIDE = {
  vue: ['vue', 'ShopInVue.vue'],
  svelte: ['svelte', 'ShopInSvelte.svelte'],
  testing: ['ts', 'testing.ts'],
};
/** Tools for looking at a page, not parts of one: docs/guide.md tells how they work together. */
const TOOLS = ['lens'];

/** The code of the examples by the export they are of. */
function examples() {
  const code = new Map();
  for (const file of readdirSync(here).filter((name) => /^(facets|fields|functions|results|sources)\.tsx?$/.test(name)))
    for (const [, name, text] of readFileSync(path.join(here, file), 'utf8').matchAll(
      /^\/\/ #region (\w+)\n([\s\S]*?)\n\/\/ #endregion$/gm,
    ))
      code.set(name, text);
  return code;
}

/** Every export that is no type, with the entry it is imported from. */
function exported(project) {
  const found = [];
  for (const module of project.getReflectionsByKind(ReflectionKind.Module))
    for (const one of module.children ?? [])
      if (one.kindOf([ReflectionKind.Function, ReflectionKind.Class, ReflectionKind.Variable]))
        found.push({ entry: module.name, one });
  return found;
}

/** What an entry is imported as, by the file it lies in. */
const importedFrom = (file) =>
  `@yucca/${file}`
    .replace('/src', '')
    .replace(/-(client|button)/, '')
    .replace('offline', 'kit');

/** What runs them, with the kit and the engine in it. */
function buildExamples() {
  const source = (name) => path.join(root, 'packages', name);
  mkdirSync(path.join(root, '.cache/examples'), { recursive: true });
  buildSync({
    entryPoints: [path.join(here, 'live.tsx')],
    outfile: path.join(root, '.cache/examples/live.js'),
    bundle: true,
    minify: true,
    format: 'iife',
    target: 'es2022',
    jsx: 'automatic',
    define: { 'process.env.NODE_ENV': '"production"' },
    alias: { '@yucca/offline/testing': source('offline/src/testing.ts') },
    logLevel: 'error',
  });
  // The look of the kit, on the examples alone.
  buildSync({
    entryPoints: [path.join(here, 'live.css')],
    outfile: path.join(root, '.cache/examples/live.css'),
    bundle: true,
    logLevel: 'error',
  });
}

export function load(app) {
  buildExamples();
  app.converter.on(Converter.EVENT_RESOLVE_BEGIN, ({ project }) => {
    for (const module of project.getReflectionsByKind(ReflectionKind.Module)) module.name = importedFrom(module.name);
  });
  app.converter.on(Converter.EVENT_RESOLVE_END, (context) => {
    const all = exported(context.project);
    const code = examples();
    const entryOf = new Map(all.map(({ entry, one }) => [one.name, entry]));
    for (const { entry, one } of all) {
      if (TOOLS.some((name) => entry.endsWith(name))) continue;
      const [kind, file] = Object.entries(IN_THE_GUIDE).find(([name]) => entry.endsWith(name))?.[1] ?? [];
      const text = file !== undefined ? readFileSync(path.join(guide, file), 'utf8') : code.get(one.name);
      if (text === undefined) {
        if (one.kindOf(ReflectionKind.Variable)) continue;
        app.logger.error(`${one.name} of ${entry} has no example: write one in packages/offline/examples`);
        continue;
      }
      code.delete(one.name);
      const shown = file === undefined ? `${importsOf(text, entryOf)}\n\n${text}` : text;
      const place = file === undefined ? `<div data-example="${one.name}"></div>\n\n` : '';
      const tag = new CommentTag('@example', [
        { kind: 'text', text: `${place}\`\`\`${kind ?? 'tsx'}\n${shown}\n\`\`\`` },
      ]);
      for (const part of one.signatures ?? [one]) (part.comment ??= new Comment()).blockTags.push(tag);
      // What is taken apart where it comes in has no name otherwise.
      for (const { parameters = [] } of one.signatures ?? [])
        for (const parameter of parameters) if (parameter.name.startsWith('__')) parameter.name = 'props';
    }
    for (const name of code.keys()) app.logger.error(`the kit exports no ${name}, which has an example`);
  });
}

/** What an example needs, as an application writes it. */
function importsOf(text, entryOf) {
  const names = [...new Set(text.match(/\b[A-Za-z]\w+\b/g))].filter((name) => entryOf.has(name)).sort();
  const entries = [...new Set(names.map((name) => entryOf.get(name)))].sort();
  return entries
    .map((entry) => `import { ${names.filter((name) => entryOf.get(name) === entry).join(', ')} } from '${entry}';`)
    .join('\n');
}
