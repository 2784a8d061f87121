'use client';

import type { HandoverFiles } from '@yucca/contract';
import clsx from 'clsx';
import { diffLines } from 'diff';
import dynamic from 'next/dynamic';
import { useEffect, useState } from 'react';
import { api } from '@/ui/api';
import { CopyButton } from '@/ui/copy-button';
import { useTarget } from './take-away';
import { TARGETS } from './targets';

const CodeView = dynamic(() => import('./code-view'), { ssr: false });

type OneFile = HandoverFiles['files'][number];

/** What a file of the last time was, beside what it is now. */
interface Compared {
  version: number;
  before: ReadonlyMap<string, string | null>;
}

interface Seen {
  slug: string;
  target: string;
  round: number;
  now: HandoverFiles;
  compared: Compared | null;
}

async function see(slug: string, target: string): Promise<Pick<Seen, 'now' | 'compared'>> {
  const path = `/interfaces/${slug}/handover?target=${target}`;
  const now = await api<HandoverFiles>(path);
  const version = now.taken?.version ?? 0;
  if (version === 0) return { now, compared: null };
  const then = await api<HandoverFiles>(`${path}&version=${version}`);
  return { now, compared: { version, before: new Map(then.files.map(({ path: name, text }) => [name, text])) } };
}

/** The files of the chosen target: a list, one file as code, and what is new in it since it was last taken away. */
export function HandOverFiles({ slug, round }: { slug: string; round: number }) {
  const [target] = useTarget();
  const [seen, setSeen] = useState<Seen | null>(null);
  const [error, setError] = useState<string | null>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  const made = target === 'static';
  useEffect(() => {
    let live = true;
    if (made) return;
    see(slug, target).then(
      (found) => {
        if (!live) return;
        setSeen({ slug, target, round, ...found });
        setError(null);
      },
      (problem: Error) => live && setError(problem.message),
    );
    return () => {
      live = false;
    };
  }, [slug, target, round, made]);
  const title = TARGETS.find(([name]) => name === target)![1];
  if (made)
    return (
      <Said>
        The folder is made when it is taken away: the index is built from the records as they are then, with the fields
        that are shown or searched and no others. Its README says what is in it and how large it is.
      </Said>
    );
  if (error !== null) return <Said>{error}</Said>;
  if (seen?.target !== target || seen.slug !== slug) return <Said>Writing the files …</Said>;
  const { files } = seen.now;
  const file = files.find(({ path }) => path === chosen) ?? mainOf(files);
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[220px_minmax(0,1fr)]">
      <nav aria-label={`Files: ${title}`} className="overflow-y-auto border-r border-line bg-paper py-2 text-[13px]">
        <ul>
          {files.map((one) => (
            <li key={one.path}>
              <button
                type="button"
                aria-current={one.path === file.path}
                onClick={() => setChosen(one.path)}
                className="flex w-full items-baseline gap-2 px-3 py-1 text-left aria-[current=true]:bg-agave-tint"
              >
                <span className="figures min-w-0 flex-1 text-xs break-all">{one.path}</span>
                {stateOf(one, seen.compared) !== '' && (
                  <span className="text-xs text-clay">{stateOf(one, seen.compared)}</span>
                )}
                <span className="figures text-xs text-soft">{sizeOf(one.bytes)}</span>
              </button>
            </li>
          ))}
        </ul>
      </nav>
      <Shown key={file.path} file={file} compared={seen.compared} taken={seen.now.taken} />
    </div>
  );
}

/** Where a reader begins. */
const mainOf = (files: OneFile[]): OneFile =>
  files.find(({ path }) => path.endsWith('/search-page.tsx')) ??
  files.find(({ path }) => path === 'src/main.ts') ??
  files.find(({ path }) => path === 'index.html') ??
  files[0]!;

const sizeOf = (bytes: number): string => (bytes < 1024 ? `${bytes} B` : `${(bytes / 1024).toFixed(1)} kB`);

/** What became of a file since it was last taken away. */
function stateOf({ path, text }: OneFile, compared: Compared | null): string {
  if (compared === null || text === null) return '';
  if (!compared.before.has(path)) return 'new';
  return compared.before.get(path) === text ? '' : 'changed';
}

function Shown({
  file: { path, text },
  compared,
  taken,
}: {
  file: OneFile;
  compared: Compared | null;
  taken: HandoverFiles['taken'];
}) {
  const [wants, setWants] = useState(false);
  const before = compared?.before.get(path) ?? '';
  const changed = compared !== null && text !== null && before !== text;
  return (
    <div className="flex min-h-0 min-w-0 flex-col bg-raised">
      <div className="flex flex-wrap items-center gap-3 border-b border-line px-3 py-1.5 text-[13px]">
        <h2 className="figures text-[13px] font-semibold">{path}</h2>
        {compared !== null && (
          <label className="flex items-center gap-1.5 text-soft">
            <input
              type="checkbox"
              checked={wants && changed}
              disabled={!changed}
              onChange={({ target }) => setWants(target.checked)}
            />
            {changed ? 'what is new' : 'nothing new'} since version {compared.version}, taken away{' '}
            {taken!.at.slice(0, 10)}
          </label>
        )}
        {text !== null && (
          <span className="ml-auto">
            <CopyButton text={text} label="Copy file" />
          </span>
        )}
      </div>
      {text === null ? (
        <Said>A packed file; it comes along as it is.</Said>
      ) : wants && changed ? (
        <Difference before={before ?? ''} now={text} />
      ) : (
        <CodeView key={path} path={path} text={text} />
      )}
    </div>
  );
}

/** What went and what came, line by line. */
function Difference({ before, now }: { before: string; now: string }) {
  return (
    <pre
      tabIndex={0}
      aria-label="What is new"
      className="figures min-h-0 flex-1 overflow-auto p-3 text-[13px] leading-5"
    >
      {diffLines(before, now).map(({ value, added, removed }, i) => (
        <span
          key={i}
          className={clsx(
            'block whitespace-pre',
            added && 'bg-agave-tint',
            removed && 'text-madder line-through decoration-1',
            !added && !removed && 'text-soft',
          )}
        >
          {value
            .replace(/\n$/, '')
            .split('\n')
            .map((line) => `${added ? '+ ' : removed ? '− ' : '  '}${line}`)
            .join('\n')}
        </span>
      ))}
    </pre>
  );
}

function Said({ children }: { children: React.ReactNode }) {
  return (
    <p role="status" className="max-w-[60ch] p-6 text-soft">
      {children}
    </p>
  );
}
