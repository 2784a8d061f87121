import type { Files } from '../targets/target';

/** Loaded with the first page that is handed over. */
async function formatter() {
  const { format } = await import('prettier/standalone');
  const plugins = await Promise.all([
    import('prettier/plugins/babel'),
    import('prettier/plugins/estree'),
    import('prettier/plugins/markdown'),
    import('prettier/plugins/postcss'),
    import('prettier/plugins/typescript'),
  ]);
  return (text: string, parser: string): Promise<string> =>
    format(text, { parser, plugins, singleQuote: true, printWidth: 100 });
}

/** By the end of a file's name, what it is written in. */
const PARSERS: readonly (readonly [end: string, parser: string])[] = [
  ['.ts', 'typescript'],
  ['.tsx', 'typescript'],
  ['.mjs', 'babel'],
  ['.js', 'babel'],
  ['package.json', 'json-stringify'],
  ['.json', 'json'],
  ['.css', 'css'],
  ['.md', 'markdown'],
];

/** Lays written files out as their owner would. What a formatter has no rules for stays as it is. */
export async function formatted(files: Files): Promise<Files> {
  const format = await formatter();
  const laidOut = await Promise.all(
    Object.entries(files).map(async ([path, content]) => {
      const parser = PARSERS.find(([end]) => path.endsWith(end))?.[1];
      if (typeof content !== 'string') return [path, content] as const;
      // A line of blanks alone is where a part would be that this design does not have.
      const tight = content.replace(/^[ \t]+\n/gm, '');
      // A page stays as it was written: policies know its styles by their hash.
      if (parser === undefined) return [path, tight] as const;
      return [path, await format(tight, parser)] as const;
    }),
  );
  return Object.fromEntries(laidOut);
}
