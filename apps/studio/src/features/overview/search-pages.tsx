'use client';

import Link from 'next/link';
import { elementCode } from '@/features/page/hand-over/code';
import { CopyButton } from '@/ui/copy-button';

/** A search page as the overview lists it. */
export interface SearchPageEntry {
  slug: string;
  title: string;
  /** Titles of the collections it shows. */
  over: string[];
}

/** The designed search pages, and the way to each. */
export function SearchPages({ pages }: { pages: SearchPageEntry[] }) {
  if (pages.length === 0) return null;
  return (
    <section aria-labelledby="search-pages" className="mt-8">
      <h2 id="search-pages" className="mb-3 text-[20px] leading-7">
        Search pages
      </h2>
      <ul className="rounded-md border border-line bg-raised">
        {pages.map(({ slug, title, over }) => (
          <li key={slug} className="flex items-baseline gap-4 border-b border-line px-5 py-3 last:border-b-0">
            <a href={`/s/${slug}`} className="font-medium hover:text-agave">
              {title}
            </a>
            <span className="figures text-xs text-soft">/s/{slug}</span>
            <span className="text-soft">{over.join(', ')}</span>
            <span className="ml-auto flex items-baseline gap-4">
              <Link href={`/pages/${slug}`} className="link">
                Design
              </Link>
              <a href={`/s/${slug}`} className="link">
                Open
              </a>
              <a href={`/s/${slug}?lens=1`} className="link">
                Open with the network lens
              </a>
              <CopyButton text={() => elementCode(window.location.origin, slug)} label="Copy the element for a site" />
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
