import { headers } from 'next/headers';
import type { ReactNode } from 'react';
import { DropZone } from '@/features/load/drop-zone';
import { pageTokenOf, sessionOf } from '@/http/caller';
import { nonceOf } from '@/http/nonce';
import { mayUseStudio } from '@/http/studio-gate';
import { StyleNonce } from '@/ui/style-nonce';

/**
 * Files may be dropped on every screen of the studio. Who may see a screen is decided by the screen (see studio-gate).
 */
export default async function StudioLayout({ children }: { children: ReactNode }) {
  if (!(await mayUseStudio())) return children;
  const sent = await headers();
  const session = sessionOf(sent);
  return (
    <DropZone>
      {session !== undefined && <meta name="yucca-page" content={pageTokenOf(session)} />}
      <StyleNonce nonce={nonceOf(sent)} />
      {children}
    </DropZone>
  );
}
