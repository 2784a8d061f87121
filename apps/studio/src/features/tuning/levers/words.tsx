'use client';

import type { Tuning } from '@yucca/contract';
import { languagesOf, writesCompounds } from '@yucca/engine/plan';
import { memo } from 'react';
import { useDraftStore } from '../draft';
import { withWords } from '../levers';
import { Check, Choice } from '@/ui/controls';
import { WordsField } from './words-field';

export const WordLevers = memo(function WordLevers({ tuning }: { tuning: Tuning }) {
  const store = useDraftStore();
  const { words, stems, compounds, stopWords } = tuning;
  return (
    <>
      <Choice
        label="Words required"
        value={words.require}
        options={[
          ['all', 'all of them'],
          ['most', 'as many as possible'],
          ['any', 'any of them'],
        ]}
        onValue={(require) => store.change((now) => withWords(now, { require }))}
      />
      <Choice
        label="Unfinished words"
        value={words.prefix}
        options={[
          ['last', 'the last one'],
          ['all', 'all of them'],
          ['none', 'none'],
        ]}
        onValue={(prefix) => store.change((now) => withWords(now, { prefix }))}
      />
      <Check
        label="Stemming: find other forms of a word"
        on={stems}
        onValue={(on) => store.change((now) => ({ ...now, stems: on }))}
      />
      {languagesOf(tuning).some(writesCompounds) && (
        <Check
          label="Compounds: find a word inside longer ones"
          on={compounds}
          onValue={(on) => store.change((now) => ({ ...now, compounds: on }))}
        />
      )}
      <WordsField
        label="Stop words"
        words={stopWords}
        onWords={(list) => store.change((now) => ({ ...now, stopWords: list }))}
      />
    </>
  );
});
