'use client';

import { completeTuning, type FieldProfile } from '@yucca/contract';
import { useMemo, useRef } from 'react';
import { useProfile } from '@/features/profile/use-profile';
import { count } from '@/ui/format';
import { useFocusInSight } from '@/ui/use-focus-in-sight';
import { useDraft } from '../draft';
import { PlacementLevers } from '../placements/placement-levers';
import { SynonymLevers } from '../synonyms/synonym-levers';
import { GroupingLevers, SortLevers } from './order';
import { Group } from '@/ui/controls';
import { LanguageLevers } from './languages';
import { SignalLevers } from './signals';
import { TypoLevers } from './typos';
import { Weights } from './weights';
import { WordLevers } from './words';

export interface LeverPanelProps {
  collection: string;
  /** The query in the probe. */
  text: string;
  generation: number;
  /** The day whose placements are shown (ISO 8601); empty = today. */
  on: string;
  onShow: (text: string, on: string) => void;
}

const NONE: readonly FieldProfile[] = [];

/** Everything that decides what is found and what stands first. Every change is a change of the draft, at once. */
export function LeverPanel({ collection, text, generation, on, onShow }: LeverPanelProps) {
  const [{ document, live }] = useDraft();
  const { profile } = useProfile(collection, generation);
  const panel = useRef<HTMLDivElement>(null);
  useFocusInSight(panel);
  // Levers whose part of the tuning stays the same are not drawn again.
  const tuning = useMemo(() => completeTuning(document), [document]);
  const liveTuning = useMemo(() => completeTuning(live), [live]);
  const fields = profile?.fields ?? NONE;
  return (
    <div
      ref={panel}
      className="relative w-[340px] shrink-0 overflow-y-auto border-r border-line bg-raised"
      tabIndex={0}
      role="region"
      aria-label="Levers"
    >
      <Group title="Fields and weights">
        <Weights tuning={tuning} collection={collection} />
      </Group>
      <Group title="Words">
        <WordLevers tuning={tuning} />
      </Group>
      <Group title="Languages" open={tuning.otherLanguages.length > 0}>
        <LanguageLevers tuning={tuning} fields={fields} />
      </Group>
      <Group title="Typos">
        <TypoLevers tuning={tuning} collection={collection} />
      </Group>
      <Group title={`Synonyms (${count(tuning.synonyms.length)})`}>
        <SynonymLevers groups={tuning.synonyms} collection={collection} text={text} />
      </Group>
      <Group title={`Placements (${count(tuning.placements.length)})`}>
        <PlacementLevers collection={collection} text={text} on={on} onShow={onShow} />
      </Group>
      <Group title="Signals">
        <SignalLevers tuning={tuning} live={liveTuning} collection={collection} fields={fields} />
      </Group>
      <Group title={`Sorts (${count(tuning.sorts.length)})`} open={false}>
        <SortLevers sorts={tuning.sorts} fields={fields} />
      </Group>
      <Group title="Grouping" open={tuning.group !== null}>
        <GroupingLevers group={tuning.group} fields={fields} />
      </Group>
    </div>
  );
}
