import type { InterfacePage } from '@yucca/contract';
import { headers } from 'next/headers';
import { notFound } from 'next/navigation';
import { cache } from 'react';
import { isFailure } from '@/server/failure';
import { runtime } from '@/server/runtime';

/** What a hosted page is made of, read once a request; for a slug that nothing is at, the page that says so. */
export const pageOf = cache((slug: string): InterfacePage => {
  try {
    return runtime().interfaces.page(slug);
  } catch (error) {
    if (isFailure(error)) notFound();
    throw error;
  }
});

/** Where the visitor reaches this server, as far as their request tells. */
export async function baseOf(): Promise<string> {
  const sent = await headers();
  return `${sent.get('x-forwarded-proto') ?? 'http'}://${sent.get('host') ?? 'localhost'}`;
}
