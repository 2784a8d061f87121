import type { SearchAnswer } from '@yucca/contract';
import { shownChoices } from '../../choices.ts';
import { withoutChoices, type Query } from '../../query.ts';
import { useTexts } from '../use-texts.ts';
import { linkTo, type Navigation } from '../navigation.ts';

/** What is chosen, each to be taken back by a click. */
export function AppliedChoices({ query, answer, ...navigation }: Navigation & { query: Query; answer: SearchAnswer }) {
  const texts = useTexts();
  const { say } = texts;
  const chosen = shownChoices(query, answer, texts);
  if (chosen.length === 0) return null;
  return (
    <ul data-part="choices" aria-label={say('choices')}>
      {chosen.map(({ key, label, without }) => (
        <li key={key}>
          <a {...linkTo(without, navigation)} data-part="choice" aria-label={say('remove', { choice: label })}>
            {label} <span aria-hidden="true">×</span>
          </a>
        </li>
      ))}
      {chosen.length > 1 && (
        <li>
          <a {...linkTo(withoutChoices(query), navigation)} data-part="link">
            {say('removeAll')}
          </a>
        </li>
      )}
    </ul>
  );
}
