'use client';

import type { TuningDocument } from '@yucca/contract';
import type { ReactNode } from 'react';
import { createDraftContext } from '@/features/draft/draft-context';
import { draftServer, type DraftStart } from '@/features/draft/draft-server';
import { FREE, type DraftCost, type DraftServer } from '@/features/draft/draft-store';
import { api } from '@/ui/api';
import { isFree } from './free-changes';

export type TuningStart = DraftStart<TuningDocument>;

const { Provider, useDraft, useDraftStore } = createDraftContext<TuningDocument>();
export { useDraft, useDraftStore };

function serverOf(collection: string, start: TuningStart): DraftServer<TuningDocument> {
  const path = `/collections/${collection}/tuning`;
  const routes = {
    path,
    read: (onAnswer: (response: Response) => void) => api<TuningDocument>(`${path}?version=draft`, { onAnswer }),
    cost: (document: TuningDocument, { live, saved }: { live: TuningDocument; saved: TuningDocument }) =>
      isFree(document, live, saved) ? FREE : api<DraftCost>(`${path}/draft/cost`, { method: 'POST', json: document }),
  };
  return draftServer(routes, start);
}

/** Holds the draft of a collection's tuning for the screens inside. */
export function DraftProvider({
  collection,
  start,
  children,
}: {
  collection: string;
  start: TuningStart;
  children: ReactNode;
}) {
  return (
    <Provider server={() => serverOf(collection, start)} start={start}>
      {children}
    </Provider>
  );
}
