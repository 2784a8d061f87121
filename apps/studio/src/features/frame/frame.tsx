import type { Collection } from '@yucca/contract';
import clsx from 'clsx';
import Link from 'next/link';
import type { ReactNode } from 'react';
import { YuccaMark } from '@/ui/mark';
import { CollectionSwitch } from './collection-switch';
import { Shortcuts } from './shortcuts';
import { StatusLine } from './status-line';
import { ThemeSwitch } from './theme-switch';

interface Stage {
  name: string;
  href: string;
  /** Whether there is anything in it yet. */
  filled: boolean;
  current: boolean;
}

function Trail({ stages }: { stages: Stage[] }) {
  return (
    <nav aria-label="Stages of the work">
      <ol className="flex items-center">
        {stages.map(({ name, href, filled, current }, i) => (
          <li key={name} className="flex items-center">
            {i > 0 && <span aria-hidden="true" className="h-px w-4 bg-line" />}
            <Link
              href={href}
              aria-current={current ? 'page' : undefined}
              className={clsx(
                'flex min-h-8 items-center gap-2 rounded-md px-2',
                current ? 'font-semibold text-ink' : 'text-soft hover:text-ink',
              )}
            >
              <span
                aria-hidden="true"
                className={clsx('size-2 rounded-full border border-agave', filled && 'bg-agave')}
              />
              {name}
              <span className="sr-only">{filled ? '' : ' (empty)'}</span>
            </Link>
          </li>
        ))}
      </ol>
    </nav>
  );
}

function HeadLink({ name, href, current }: { name: string; href: string; current: boolean }) {
  return (
    <Link
      href={href}
      aria-current={current ? 'page' : undefined}
      className={clsx(
        'flex min-h-8 items-center rounded-md px-2',
        current ? 'font-semibold' : 'text-soft hover:text-ink',
      )}
    >
      {name}
    </Link>
  );
}

/** The frame of the studio: the trail above, the status line below, the screen between. */
export function Frame({
  collections,
  current = null,
  stage = null,
  children,
}: {
  collections: Collection[];
  current?: Collection | null;
  stage?: 'records' | 'feeds' | 'fields' | 'tuning' | 'judgements' | 'insights' | 'page' | 'keys' | 'api' | null;
  children: ReactNode;
}) {
  const base = current && `/c/${current.name}`;
  return (
    <div className="flex h-dvh min-w-[1024px] flex-col">
      <a href="#screen" className="sr-only focus:not-sr-only focus:absolute focus:z-10 focus:bg-raised focus:p-2">
        Skip to the screen
      </a>
      <header aria-label="Studio" className="flex h-12 shrink-0 items-center gap-4 border-b border-line bg-raised px-4">
        <Link href="/" className="flex items-center gap-2 rounded-md pr-1 font-head text-[17px] font-semibold">
          <YuccaMark /> Yucca
        </Link>
        <CollectionSwitch
          names={collections.map(({ name, title }) => ({ name, title }))}
          current={current?.name ?? null}
        />
        {current && (
          <Trail
            stages={[
              { name: 'Records', href: `${base}/records`, filled: current.records > 0, current: stage === 'records' },
              { name: 'Feeds', href: `${base}/feeds`, filled: current.feeds > 0, current: stage === 'feeds' },
              { name: 'Fields', href: `${base}/fields`, filled: current.liveVersion > 1, current: stage === 'fields' },
              { name: 'Tuning', href: `${base}/tuning`, filled: current.liveVersion > 1, current: stage === 'tuning' },
              {
                name: 'Judgements',
                href: `${base}/judgements`,
                filled: current.judged > 0,
                current: stage === 'judgements',
              },
              { name: 'Insights', href: `${base}/insights`, filled: current.searched, current: stage === 'insights' },
              {
                name: 'Page',
                href: `${base}/page`,
                filled: current.records > 0,
                current: stage === 'page',
              },
            ]}
          />
        )}
        <nav aria-label="For all collections" className="ml-auto flex items-center gap-1">
          <HeadLink name="API" href={current ? `/api?collection=${current.name}` : '/api'} current={stage === 'api'} />
          <HeadLink name="Keys" href="/keys" current={stage === 'keys'} />
          <Shortcuts collection={current?.name ?? null} />
          <ThemeSwitch />
        </nav>
      </header>
      <main id="screen" tabIndex={-1} className="flex min-h-0 flex-1 outline-none">
        {children}
      </main>
      <StatusLine collection={current} total={collections.length} />
    </div>
  );
}
