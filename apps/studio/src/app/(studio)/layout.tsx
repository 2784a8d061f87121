import type { ReactNode } from 'react';
import { DropZone } from '@/features/load/drop-zone';
import { mayUseStudio } from '@/http/studio-gate';

/** Files may be dropped on every screen of the studio. Who may see a screen is decided by the screen (see studio-gate). */
export default async function StudioLayout({ children }: { children: ReactNode }) {
  return (await mayUseStudio()) ? <DropZone>{children}</DropZone> : children;
}
