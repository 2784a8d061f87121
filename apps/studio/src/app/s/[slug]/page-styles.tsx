import type { InterfacePage } from '@yucca/contract';
import { headers } from 'next/headers';
import { nonceOf } from '@/http/nonce';

/** What a page wears beside the style sheets of all: its colour behind the window's edges, and its own CSS. */
export async function PageStyles({ page: { theme, css = '' } }: { page: Pick<InterfacePage, 'theme' | 'css'> }) {
  const { '--yucca-paper': paper, '--yucca-scheme': scheme } = theme ?? {};
  const edges = (paper ? `html{background:${paper}}` : '') + (scheme ? `html:root:root{color-scheme:${scheme}}` : '');
  const styles = edges + css;
  if (styles === '') return null;
  return <style nonce={nonceOf(await headers())} dangerouslySetInnerHTML={{ __html: styles }} />;
}
