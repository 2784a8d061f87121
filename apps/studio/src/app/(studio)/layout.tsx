import { headers } from 'next/headers';
import type { ReactNode } from 'react';
import { DropZone } from '@/features/load/drop-zone';
import { isLoopbackHost } from '@/server/config';
import { runtime } from '@/server/runtime';
import { YuccaMark } from '@/ui/mark';

/** The studio is for the person at this machine: opened from elsewhere it shows nothing. */
export default async function StudioLayout({ children }: { children: ReactNode }) {
  const open = runtime().config.loopback && isLoopbackHost((await headers()).get('host'));
  if (open) return <DropZone>{children}</DropZone>;
  return (
    <main className="mx-auto max-w-xl p-12">
      <h1 className="mb-4 flex items-center gap-2 text-[28px] leading-9">
        <YuccaMark size={28} /> The studio is closed here
      </h1>
      <p className="mb-3">
        It opens on the machine that Yucca runs on, at 127.0.0.1, as long as Yucca listens to nothing else. Search pages
        and the HTTP API with a key work from everywhere.
      </p>
      <p>Start Yucca without YUCCA_HOST, or with YUCCA_HOST=127.0.0.1, and reach it through a tunnel.</p>
    </main>
  );
}
