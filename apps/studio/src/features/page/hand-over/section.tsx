'use client';

import Link from 'next/link';
import { useState } from 'react';
import { ask } from '@/ui/api';
import { Button } from '@/ui/button';
import { CopyButton } from '@/ui/copy-button';
import { copyText } from '@/ui/copy-text';
import type { PageFacts } from '../facts';
import { csp, elementCode, reactCode } from './code';
import { TakeAway } from './take-away';

/** How the page gets into a site: files to take away, code to copy, and what its site must allow. */
export function HandOverSection({ facts: { parts }, onTaken }: { facts: PageFacts; onTaken: () => void }) {
  const { slug, records } = parts;
  const pieces: [title: string, about: string, code: (origin: string) => string][] = [
    [
      'One element, any site',
      'The whole page by a script and an element, without a build step. Published changes are in it at once.',
      (origin) => elementCode(origin, slug),
    ],
    [
      'In React',
      'The same page as a component, with first results from the server where yours renders them.',
      (origin) => reactCode(origin, slug),
    ],
    ['Content-Security-Policy', 'What the site’s policy has to allow for the element.', csp],
  ];
  const origin = typeof window === 'undefined' ? '' : window.location.origin;
  return (
    <>
      <TakeAway slug={slug} records={records} onTaken={onTaken} />
      <Guide slug={slug} />
      <h2 className="mt-2 border-t border-line pt-3 text-[15px]">Or code to copy</h2>
      <p className="text-[13px] text-soft">
        It needs a search key for the site’s origin:{' '}
        <Link href="/keys" className="link">
          make one under Keys
        </Link>
        . A search key may stand in a page: it can do nothing but search.
      </p>
      {pieces.map(([title, about, code]) => (
        <section key={title} className="grid grid-cols-[minmax(0,1fr)] justify-items-start gap-1">
          <h3 className="text-[13px] font-semibold">{title}</h3>
          <p className="text-xs text-soft">{about}</p>
          <pre
            tabIndex={0}
            aria-label={title}
            className="figures w-full overflow-x-auto rounded-md border border-line bg-sunk p-2 text-xs leading-5"
            suppressHydrationWarning
          >
            {code(origin)}
          </pre>
          <CopyButton text={() => code(window.location.origin)} label={`Copy: ${title}`} />
        </section>
      ))}
    </>
  );
}

/** One page that says how the collection is searched, with real answers. */
function Guide({ slug }: { slug: string }) {
  const [said, setSaid] = useState('');
  const copy = (): void => {
    ask(`/interfaces/${slug}/guide`)
      .then((response) => response.text())
      .then(copyText)
      .then(
        () => setSaid('Copied.'),
        (error: Error) => setSaid(error.message),
      );
  };
  return (
    <section className="grid justify-items-start gap-1 border-t border-line pt-3">
      <h2 className="text-[15px]">For a colleague or an assistant</h2>
      <p className="text-xs text-soft">
        One page in Markdown: fields, facets, sorts, filters, addresses, with real answers to read from.
      </p>
      <span className="flex items-center gap-2">
        <Button onClick={copy}>Copy the page</Button>
        <a className="link text-[13px]" href={`/api/v1/interfaces/${slug}/guide`} target="_blank" rel="noreferrer">
          Read it
        </a>
        <span role="status" className="text-[13px] text-soft">
          {said}
        </span>
      </span>
    </section>
  );
}
