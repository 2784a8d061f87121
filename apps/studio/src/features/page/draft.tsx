'use client';

import { withProperty, type Interface, type InterfaceDocument } from '@yucca/contract';
import { useCallback, type ReactNode } from 'react';
import { createDraftContext } from '@/features/draft/draft-context';
import { draftServer } from '@/features/draft/draft-server';
import { api } from '@/ui/api';
import type { DesignStart } from './facts';

const { Provider, useDraft, useDraftStore } = createDraftContext<InterfaceDocument>();
export { useDraft };

/** Holds the draft of a page's design for the screen inside. */
export function DesignProvider({ slug, start, children }: { slug: string; start: DesignStart; children: ReactNode }) {
  const server = () => {
    const path = `/interfaces/${slug}`;
    const read = async (onAnswer: (response: Response) => void): Promise<InterfaceDocument> =>
      (await api<Interface>(`${path}?version=draft`, { onAnswer })).document;
    return draftServer({ path, read }, start);
  };
  return (
    <Provider server={server} start={start}>
      {children}
    </Provider>
  );
}

/** Sets one property of a design; undefined gives it back to what follows from the collection. */
export type SetDesign = <P extends keyof InterfaceDocument>(
  part: P,
  value: InterfaceDocument[P] | undefined,
  gesture?: string,
) => void;

/** Changes the design on screen, one property at a time. */
export function useSetDesign(): SetDesign {
  const store = useDraftStore();
  return useCallback(
    (part, value, gesture) =>
      store.change((document) => withProperty(document, part, value), gesture === undefined ? {} : { gesture }),
    [store],
  );
}
