import { isWholeView } from './design';
import { asMarkdown } from '../escape';
import type { Files, TakenAway } from '../targets/target';

/** The name of the packed kit inside a project. */
export const KIT_FILE = 'kit/yucca-kit.tgz';

/** What every project has, whatever it is made with. */
export function projectFiles({ kit }: Pick<TakenAway, 'kit'>): Files {
  return {
    [KIT_FILE]: kit(),
    '.editorconfig': `root = true

[*]
charset = utf-8
end_of_line = lf
indent_size = 2
indent_style = space
insert_final_newline = true
trim_trailing_whitespace = true
`,
    '.gitignore': 'node_modules\ndist\n.next\nnext-env.d.ts\n*.tsbuildinfo\n',
    LICENSE: LICENCE,
  };
}

/** The file with where Yucca is and the key; `prefix` is what the build tool wants before names that pages may see. */
export const envFile = ({ server, key, origins }: TakenAway, prefix: string): string => `# Where Yucca is reached.
${prefix}_YUCCA_SERVER=${server}
# A search key: it can search the collections of this page and do nothing else, so that it may stand in a page.
# ${origins.length === 0 ? 'It may be used from anywhere.' : `It may be used from ${origins.join(', ')}.`} It can be taken back in Yucca under Keys.
${prefix}_YUCCA_KEY=${key}
`;

export const packageFile = (
  slug: string,
  scripts: Record<string, string>,
  dependencies: Record<string, string>,
  devDependencies: Record<string, string>,
): string =>
  JSON.stringify({
    name: slug,
    version: '1.0.0',
    private: true,
    type: 'module',
    scripts,
    dependencies,
    devDependencies,
  });

export const tsconfig = (more: object = {}, include = ['src']): string =>
  JSON.stringify({
    compilerOptions: {
      target: 'ES2022',
      lib: ['ES2023', 'DOM', 'DOM.Iterable'],
      module: 'ESNext',
      moduleResolution: 'bundler',
      strict: true,
      noUnusedLocals: true,
      noUnusedParameters: true,
      exactOptionalPropertyTypes: true,
      noUncheckedIndexedAccess: true,
      isolatedModules: true,
      skipLibCheck: true,
      noEmit: true,
      ...more,
    },
    include,
  });

export interface ReadmeParts {
  /** What the project is. */
  about: string;
  /** Commands that make it run, three at most. */
  commands: readonly string[];
  /** What is where: files and what they hold. */
  files: readonly (readonly [file: string, about: string])[];
  /** The policy that it works under. */
  policy: string;
  more?: string;
}

/** From where a key may be used, as a sentence. */
export const whereKeyWorks = (origins: readonly string[]): string =>
  origins.length === 0
    ? 'The key may be used from anywhere, also from a folder.'
    : `The key may be used from ${origins.map((origin) => `\`${origin}\``).join(', ')}, and nowhere else.`;

/** The line of a README for the filters; none on a page without any. */
export const filtersNamed = (
  { page }: Pick<TakenAway, 'page'>,
  line: ReadmeParts['files'][number],
): ReadmeParts['files'] => (page.facets.length > 0 ? [line] : []);

/** The files in a folder that the page itself is written in; see `sharedSources`. */
export const partsNamed = (what: Pick<TakenAway, 'page'>, folder: string): ReadmeParts['files'] =>
  isWholeView(what.page)
    ? [[`${folder}design.ts`, 'what stands on the page, and how it is shown']]
    : [
        [`${folder}field.tsx`, 'the search field and what it offers'],
        ...filtersNamed(what, [
          `${folder}filters.tsx`,
          `the filters; which, and how they are shown, is in \`${folder}facets.ts\``,
        ]),
        [`${folder}results.tsx`, `the list; one result is in \`${folder}card.tsx\``],
      ];

export function readme({ page, server, origins }: TakenAway, parts: ReadmeParts): string {
  const table = parts.files.map(([file, about]) => `- \`${file}\`: ${about}`).join('\n');
  return `# ${asMarkdown(page.title)}

${parts.about}

\`\`\`sh
${parts.commands.join('\n')}
\`\`\`

It asks \`${server}\`. ${whereKeyWorks(origins)} It can do nothing but search, and can be taken back in Yucca under Keys.

## What is where

${table}

${parts.more ?? ''}

## Content-Security-Policy

The strictest header it works under:

\`\`\`
Content-Security-Policy: ${parts.policy}
\`\`\`
`;
}

/** Drives the running page in a browser without a window: typing, a filter, Back. */
export const smokeFile = (
  start: string,
  address: string,
): string => `// Starts the built page and uses it in a browser without a window: \`npm run smoke\`.
// CHROME_PATH and CHROMEDRIVER_PATH say where the browser and its driver are, when they are not found by themselves.
import { spawn } from 'node:child_process';
import { Builder, By, Key, until } from 'selenium-webdriver';
import chrome from 'selenium-webdriver/chrome.js';

const ADDRESS = process.env.SMOKE_ADDRESS ?? '${address}';
const WAIT = 20_000;
const server = spawn('npx', ${start}, { stdio: 'ignore', detached: true });
const options = new chrome.Options().addArguments('--headless=new', '--no-sandbox', '--window-size=1280,900');
if (process.env.CHROME_PATH) options.setChromeBinaryPath(process.env.CHROME_PATH);
const builder = new Builder().forBrowser('chrome').setChromeOptions(options);
if (process.env.CHROMEDRIVER_PATH)
  builder.setChromeService(new chrome.ServiceBuilder(process.env.CHROMEDRIVER_PATH));

let browser;
try {
  for (let tries = 0; !(await fetch(ADDRESS).then((answer) => answer.ok, () => false)); tries++) {
    if (tries > 100) throw new Error(\`Nothing answers at \${ADDRESS}\`);
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  browser = await builder.build();
  await browser.get(ADDRESS);
  const count = () => browser.wait(until.elementLocated(By.css('[data-part=count]')), WAIT).getText();
  const all = await count();
  const field = await browser.findElement(By.css('[role=combobox]'));
  const word = (await browser.findElement(By.css('[data-part=card] h2')).getText()).split(/\\s+/)[0];
  await field.sendKeys(word);
  await browser.wait(until.elementLocated(By.css('mark')), WAIT, 'nothing is marked');
  await browser.wait(async () => (await browser.getCurrentUrl()).includes('q='), WAIT, 'the address has no query');
  await field.sendKeys(Key.ENTER);
  await browser.navigate().refresh();
  await browser.wait(until.elementLocated(By.css('mark')), WAIT, 'a reload lost the query');
  console.log(\`It works: \${all}; “\${word}” is found and kept by a reload.\`);
} catch (error) {
  console.error(error);
  process.exitCode = 1;
} finally {
  await browser?.quit();
  process.kill(-server.pid);
}
`;

const LICENCE = `Copyright (c) the owner of this site

The files of this project outside of kit/ were written for you by Yucca from the design of your page. They are yours:
permission to use, copy, modify and distribute them for any purpose, with or without fee, is granted without conditions.
They are provided "as is", without warranty of any kind.

kit/ holds the Yucca kit, licensed under the Apache License 2.0: https://www.apache.org/licenses/LICENSE-2.0
`;
