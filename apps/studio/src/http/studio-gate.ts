import { headers } from 'next/headers';
import { redirect } from 'next/navigation';
import { runtime, type Runtime } from '@/server/runtime';
import { studioIsOpen } from './caller';

/** Whether whoever asks for this page may use the studio. */
export async function mayUseStudio(): Promise<boolean> {
  return studioIsOpen(await headers(), runtime());
}

/**
 * What a page of the studio works with. Sends whoever may not use the studio to sign in, and back to `path` afterwards.
 * Every page asks by itself: a layout is not rendered anew when a browser goes from page to page.
 */
export async function studioRuntime(path: string): Promise<Runtime> {
  if (!(await mayUseStudio())) redirect(`/sign-in?next=${encodeURIComponent(path)}`);
  return runtime();
}
