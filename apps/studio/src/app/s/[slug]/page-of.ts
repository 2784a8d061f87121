import type { InterfacePage } from '@yucca/contract';
import { headers } from 'next/headers';
import { notFound } from 'next/navigation';
import { cache } from 'react';
import { baseOf as baseOfHeaders } from '@/http/visitor-address';
import { isFailure } from '@/server/failure';
import { runtime } from '@/server/runtime';

/** What a hosted page is made of, read once a request; for a slug that nothing is at, the page that says so. */
export const pageOf = cache(
  (slug: string, version: 'live' | 'draft' = 'live', language: string | null = null): InterfacePage => {
    try {
      // English is in the page already.
      return runtime().interfaces.page(slug, version, { language, isWhole: false });
    } catch (error) {
      if (isFailure(error)) notFound();
      throw error;
    }
  },
);

/** The language that an address asks for. */
export const languageOf = ({ lang }: Record<string, string | string[] | undefined>): string | null =>
  typeof lang === 'string' ? lang : null;

/** Where the visitor reaches this server. */
export async function baseOf(): Promise<string> {
  return baseOfHeaders(await headers(), runtime().config.publicUrl);
}
