'use client';

import { tuningChanges } from '@yucca/contract';
import { useCallback } from 'react';
import { DraftBar, type PublishingEffect } from '@/features/draft/draft-bar';
import { useDraft } from './draft';
import { JudgedEffect, useDraftEffect } from './judged-effect';

/** The bar of a tuning's draft: what it would change for visitors, and for the judged queries. */
export function TuningDraftBar({ collection }: { collection: string }) {
  const draft = useDraft();
  const [{ live, document }] = draft;
  const useEffectOf = useCallback(
    function useJudged(open: boolean): PublishingEffect {
      const effect = useDraftEffect(collection, open);
      const mustSay = effect !== null && effect !== 'asking' && effect.worse.length > 0;
      return { node: <JudgedEffect effect={effect} />, mustSay };
    },
    [collection],
  );
  return <DraftBar draft={draft} changes={tuningChanges(live, document)} useEffectOf={useEffectOf} />;
}
