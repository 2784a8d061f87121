import type { SearchAnswer } from '@yucca/kit';
import { ResultCount, TextsProvider } from '@yucca/kit/react';
import { textsOf } from '@yucca/kit/texts';
import { GERMAN } from '@yucca/kit/texts/german';
import { createRoot } from 'react-dom/client';
import { client } from './client';

// Some texts of your own before those that come along: a name in braces stands for a value.
const texts = textsOf('de', { ...GERMAN, nothing: 'Das führen wir leider nicht.' });

/** Draws how much was found, in German. */
export const showCount = (answer: SearchAnswer): void =>
  createRoot(document.getElementById('count')!).render(
    <TextsProvider value={texts}>
      <ResultCount answer={answer} asked={answer.query} />
    </TextsProvider>,
  );

showCount(await client.search('plants', { q: 'lavender', size: 1 }));
