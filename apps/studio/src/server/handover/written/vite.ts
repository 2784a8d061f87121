import type { Files, TakenAway } from '../targets/target';
import { documentFile } from './document';
import { builtPolicy } from './policy';
import { envFile, KIT_FILE, packageFile, projectFiles, readme, smokeFile, tsconfig, type ReadmeParts } from './project';
import { projectStyles } from './styles';
import { versionsOf, type Dependency } from './versions';
import { yuccaFile } from './yucca';

interface ViteParts {
  /** Packages besides the kit, and those that only building needs. */
  dependencies: Dependency[];
  devDependencies: Dependency[];
  compiler: object;
  /** What of the document the program draws into, and the program. */
  body: string;
  entry: string;
  readme: Pick<ReadmeParts, 'about' | 'files'> & { more: string };
}

/** What every project has that Vite builds. */
export function viteFiles(what: TakenAway, parts: ViteParts): Files {
  const { page, server } = what;
  const styles = Object.keys(projectStyles(page)).map((name) => `src/${name}`);
  return {
    ...projectFiles(what),
    '.env': envFile(what, 'VITE'),
    'package.json': packageFile(
      page.slug,
      {
        dev: 'vite',
        build: 'vite build',
        preview: 'vite preview',
        check: 'tsc',
        smoke: 'vite build && node smoke.mjs',
      },
      { '@yucca/kit': `file:${KIT_FILE}`, ...versionsOf(...parts.dependencies) },
      versionsOf('selenium-webdriver', 'typescript', 'vite', ...parts.devDependencies),
    ),
    'tsconfig.json': tsconfig({ ...parts.compiler, types: ['vite/client'] }),
    'smoke.mjs': smokeFile(`['vite', 'preview', '--port', '4173', '--strictPort']`, 'http://localhost:4173/'),
    'index.html': documentFile(what, '', `${parts.body}\n    <script type="module" src="/${parts.entry}"></script>`),
    'src/yucca.ts': yuccaFile(what, (name) => `import.meta.env.VITE_${name}`),
    'README.md': readme(what, {
      about: `${parts.readme.about} It is yours to change: nothing in it is made anew by itself.`,
      commands: ['npm install', 'npm run dev'],
      files: [
        ...parts.readme.files,
        ['src/texts.ts', 'the page’s own texts'],
        [styles.join('`, `'), 'colours, type, and styles of its own'],
        ['src/yucca.ts', 'where Yucca is, what is asked for, where a record’s page is'],
        ['.env', 'the address of Yucca and the key'],
        [KIT_FILE, 'the kit, packed: no registry is needed for it'],
      ],
      policy: builtPolicy(server),
      more: `${parts.readme.more}\`npm run build\` makes the page, \`npm run check\` looks for wrong types, \`npm run smoke\` uses it in a browser.`,
    }),
  };
}
