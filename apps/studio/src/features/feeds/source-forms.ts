/** What is asked about each kind of source, and the source that the answers make. */
import type { Feed, FeedSource, PollSource } from '@yucca/contract';

export type SourceKind = FeedSource['kind'];

export interface Question {
  name: string;
  label: string;
  type?: 'text' | 'password' | 'number' | 'lines' | 'check' | 'code';
  placeholder?: string;
  /** Below it, in small type. */
  help?: string;
  /** Among those that most leave as they are. */
  isRare?: boolean;
}

export interface SourceForm {
  kind: SourceKind;
  title: string;
  says: string;
  questions: readonly Question[];
}

const KEY: Question = { name: 'key', label: 'Field that tells records apart', placeholder: 'found by itself', isRare: true }; // prettier-ignore
const PRIVATE: Question = {
  name: 'allowPrivate',
  label: 'Hosts of a private network that may be asked',
  type: 'lines',
  placeholder: '10.0.0.7:8080',
  help: 'One a line, with the port. All others there are refused.',
  isRare: true,
};
const COLUMNS: readonly Question[] = [
  { name: 'table', label: 'Table or view', placeholder: 'plants' },
  { name: 'key', label: 'Column that tells rows apart', placeholder: 'id' },
];
const QUERY: Question = {
  name: 'query',
  label: 'A query of your own',
  type: 'code',
  placeholder: 'select p.*, s.name as supplier from plants p join suppliers s on s.id = p.supplier',
  help: 'One SELECT; it only reads. In place of the table.',
  isRare: true,
};
const CHANGED: Question = {
  name: 'changed',
  label: 'Column that grows with every change',
  placeholder: 'updated_at',
  help: 'Then only changed rows are read, and all of them once a day, for deletions.',
  isRare: true,
};

/** The kinds of sources, the most usual first. */
export const SOURCE_FORMS: readonly SourceForm[] = [
  {
    kind: 'webhook',
    title: 'It sends its changes',
    says: 'A shop or CMS that sends each change as a signed event (a webhook with CloudEvents). Found a moment later.',
    questions: [],
  },
  {
    kind: 'poll',
    title: 'An address',
    says: 'JSON, JSON Lines, CSV, Atom, RSS, or the pages of a sitemap, asked on a schedule.',
    questions: [
      { name: 'url', label: 'Address', placeholder: 'https://shop.example/export/plants.json' },
      { name: 'isSitemap', label: 'It is a sitemap: its pages are the records', type: 'check' },
      { ...KEY },
      { name: 'headerName', label: 'A header that is sent', placeholder: 'Authorization', isRare: true },
      { name: 'headerValue', label: 'Its value', type: 'password', help: 'Kept sealed; it goes to this host alone.', isRare: true }, // prettier-ignore
      {
        name: 'cursorParameter',
        label: 'Parameter that asks for changes only',
        placeholder: 'updated_since',
        isRare: true,
      },
      { name: 'cursorField', label: 'Field whose largest value it takes', placeholder: 'updated_at', isRare: true },
      PRIVATE,
    ],
  },
  {
    kind: 'folder',
    title: 'A folder of files',
    says: 'Tables, JSON, Excel, pages in Markdown or HTML, on this machine. Read again as soon as one changes.',
    questions: [
      { name: 'path', label: 'Folder', placeholder: 'exports', help: 'Below the folder that YUCCA_LOAD_DIR allows.' },
      KEY,
    ],
  },
  {
    kind: 'sqlite',
    title: 'A SQLite file',
    says: 'A table, a view or a query of a database file on this machine.',
    questions: [
      { name: 'file', label: 'File', placeholder: 'shop.sqlite', help: 'Below the folder that YUCCA_LOAD_DIR allows.' },
      ...COLUMNS,
      { name: 'log', label: 'Follow every change by triggers', type: 'check', help: 'Their text is shown before they are made.' }, // prettier-ignore
      CHANGED,
      QUERY,
    ],
  },
  {
    kind: 'postgres',
    title: 'A PostgreSQL server',
    says: 'A table, a view or a query; each change as it happens where the server logs them (logical decoding).',
    questions: [
      { name: 'host', label: 'Host', placeholder: 'db.shop.example' },
      { name: 'database', label: 'Database', placeholder: 'shop' },
      { name: 'user', label: 'User', placeholder: 'yucca_reader' },
      { name: 'password', label: 'Password', type: 'password', help: 'Kept sealed.' },
      ...COLUMNS,
      { name: 'follow', label: 'Follow every change (wal_level = logical)', type: 'check' },
      { name: 'port', label: 'Port', type: 'number', placeholder: '5432', isRare: true },
      { name: 'ssl', label: 'Encrypted (TLS)', type: 'check', isRare: true },
      CHANGED,
      QUERY,
      PRIVATE,
    ],
  },
];

/** Schedules to choose from: seconds, or null = once, and when somebody asks. */
export const SCHEDULES: readonly (readonly [string, string])[] = [
  ['5', 'every 5 seconds'],
  ['60', 'every minute'],
  ['900', 'every 15 minutes'],
  ['3600', 'every hour'],
  ['86400', 'every day'],
  ['', 'only when I ask'],
  ['cron', 'by a cron expression'],
];

/** The same with one that was set over HTTP. */
export const schedulesWith = (s: string): typeof SCHEDULES =>
  SCHEDULES.some(([known]) => known === s) ? SCHEDULES : [[s, `every ${s} seconds`], ...SCHEDULES];

export type Answers = Record<string, string>;

const filled = (value: string | undefined): value is string => value !== undefined && value.trim() !== '';
const yes = (value: string | undefined): boolean => value === 'true';

/**
 * The source that answers make. What was left empty is left out; what the form does not ask for stays as it was, and so
 * does a secret that was not typed anew.
 */
export function sourceOf(kind: SourceKind, answers: Answers, before?: FeedSource): FeedSource {
  const was = before?.kind === kind ? (before as Record<string, unknown>) : {};
  const kept = Object.fromEntries(KEPT.flatMap((name) => (was[name] === undefined ? [] : [[name, was[name]]])));
  return { ...kept, ...madeOf(kind, answers, was) } as FeedSource;
}

/** What sources have that the form does not ask for. */
const KEPT = ['types', 'plain', 'at', 'watch', 'timeoutS'];

/** What a form shows of a feed that is there. */
export function answersOf({ name, source }: Feed): Answers {
  const told = Object.entries(source).flatMap(([field, value]): [string, string][] =>
    typeof value === 'string' || typeof value === 'number' || typeof value === 'boolean'
      ? [[field, String(value)]]
      : [],
  );
  const answers: Answers = { everyS: '', ...Object.fromEntries(told), name };
  if (source.kind !== 'webhook' && source.cron !== undefined) answers.everyS = 'cron';
  if (source.kind === 'poll') {
    answers.isSitemap = String(source.format === 'sitemap');
    answers.headerName = Object.keys(source.headers ?? {})[0] ?? '';
    answers.cursorParameter = source.cursor?.parameter ?? '';
    answers.cursorField = source.cursor?.field ?? '';
  }
  if (source.kind === 'poll' || source.kind === 'postgres')
    answers.allowPrivate = (source.allowPrivate ?? []).join('\n');
  return answers;
}

function madeOf(kind: SourceKind, answers: Answers, was: Record<string, unknown>): FeedSource {
  const { everyS, cron } = answers;
  const schedule = everyS === 'cron' ? (filled(cron) ? { cron: cron.trim() } : {}) : filled(everyS) ? { everyS: Number(everyS) } : {}; // prettier-ignore
  const texts = (...names: string[]): Answers =>
    Object.fromEntries(names.flatMap((name) => (filled(answers[name]) ? [[name, answers[name].trim()]] : [])));
  const lines = (answers.allowPrivate ?? '').split(/[\s,]+/).filter((one) => one !== '');
  const allowed = lines.length > 0 ? { allowPrivate: lines } : {};
  const { headerName, headerValue, cursorParameter, cursorField } = answers;
  switch (kind) {
    case 'webhook':
      return { kind };
    case 'poll':
      return {
        kind,
        url: (answers.url ?? '').trim(),
        ...formatOf(yes(answers.isSitemap), was.format as PollSource['format']),
        ...texts('key', 'at'),
        ...(filled(headerName) && { headers: headersOf(headerName.trim(), headerValue, was.headers as Headers | undefined) }), // prettier-ignore
        ...(filled(cursorParameter) && filled(cursorField) && { cursor: { parameter: cursorParameter.trim(), field: cursorField.trim() } }), // prettier-ignore
        ...allowed,
        ...schedule,
      };
    case 'folder':
      return { kind, path: (answers.path ?? '').trim(), ...texts('key', 'at'), ...schedule };
    case 'sqlite':
      return {
        kind,
        file: (answers.file ?? '').trim(),
        key: (answers.key ?? '').trim(),
        ...texts('table', 'query', 'changed'),
        ...(yes(answers.log) && { log: true }),
        ...schedule,
      };
    case 'postgres':
      return {
        kind,
        host: (answers.host ?? '').trim(),
        database: (answers.database ?? '').trim(),
        user: (answers.user ?? '').trim(),
        key: (answers.key ?? '').trim(),
        ...texts('table', 'query', 'changed'),
        ...(filled(answers.password) ? { password: answers.password } : was.password === null && { password: null }),
        ...(filled(answers.port) && { port: Number(answers.port) }),
        ...(yes(answers.ssl) && { ssl: true }),
        ...(yes(answers.follow) && { follow: true }),
        ...allowed,
        ...schedule,
      };
  }
}

type Headers = NonNullable<PollSource['headers']>;

/** The header of the form beside those it does not show; null keeps what is sealed. */
function headersOf(name: string, value: string | undefined, was: Headers = {}): Headers {
  const others = Object.keys(was).slice(1);
  const isKept = !filled(value) && Object.hasOwn(was, name);
  return { ...Object.fromEntries(others.map((other) => [other, null])), [name]: isKept ? null : (value ?? '') };
}

function formatOf(isSitemap: boolean, was: PollSource['format']): Pick<PollSource, 'format'> {
  if (isSitemap) return { format: 'sitemap' };
  return was === undefined || was === 'sitemap' ? {} : { format: was };
}

/** A host that a refusal asks to be named, out of its sentence. */
export const hostToAllow = (problem: string): string | null => /Allow (\S+) by name/.exec(problem)?.[1] ?? null;

/** A source in one line. */
export function sourceWords(source: FeedSource): string {
  switch (source.kind) {
    case 'webhook':
      return 'sends its changes';
    case 'poll':
      return source.url;
    case 'folder':
      return `folder ${source.path || '.'}`;
    case 'sqlite':
      return `${source.file}, ${source.table ?? 'a query'}`;
    case 'postgres':
      return `${source.host}/${source.database}, ${source.table ?? 'a query'}`;
  }
}

/** How often a source is asked, in words. */
export function scheduleWords(source: FeedSource): string {
  if (source.kind === 'webhook') return '';
  if (source.cron !== undefined) return `by cron, ${source.cron} (UTC)`;
  if (source.everyS !== undefined)
    return SCHEDULES.find(([s]) => s === String(source.everyS))?.[1] ?? `every ${source.everyS} s`;
  return source.kind === 'folder' && source.watch !== false ? 'when a file changes' : 'only when somebody asks';
}
