import type { SearchAnswer } from '@yucca/contract';
import { EMPTY_QUERY, withNear, withoutChoices, withText, type Query } from '../../query.ts';
import { useTexts } from '../use-texts.ts';
import { linkTo, type Navigation } from '../navigation.ts';

/** What `NothingFound` is given. */
export interface NothingFoundProps extends Navigation {
  /** What was asked, for the answer that is shown. */
  query: Query;
  answer: SearchAnswer;
}

/** What is left of the words when one is taken away, as far as the data holds all of the rest. */
export function shorterQueries({ understood: { words } }: SearchAnswer): string[] {
  if (words.length < 2) return [];
  return words
    .map((_, i) => words.filter((__, j) => j !== i))
    .filter((rest) => rest.every(({ as }) => as.length > 0))
    .map((rest) => rest.map(({ text }) => text).join(' '));
}

/** What was typed with the nearest spelling in place of each word that stands nowhere; null when none is near. */
export function respelt({ query, understood: { words } }: SearchAnswer): string | null {
  const text = words.reduce(
    (typed, { text: word, nearest }) => (nearest === undefined ? typed : typed.replace(word, () => nearest)),
    query,
  );
  return text === query ? null : text;
}

/**
 * What to do when nothing was found: spell it otherwise, take a choice back, drop a word, go further away, see
 * everything.
 */
export function NothingFound({ query, answer, ...navigation }: NothingFoundProps) {
  const { say, oneOf } = useTexts();
  const unknown = answer.understood.words.filter(({ as }) => as.length === 0).map(({ text }) => text);
  const hasChoices = Object.keys(query.select).length > 0;
  const other = respelt(answer);
  const waysOut: [string, Query][] = [
    ...(other === null ? [] : [[say('trySpelling', { query: other }), withText(query, other)] as [string, Query]]),
    ...(hasChoices ? [[say('removeChoices'), withoutChoices(query)] as [string, Query]] : []),
    ...(query.near?.withinM === undefined
      ? []
      : [[say('lookFurther'), withNear(query, { lat: query.near.lat, lng: query.near.lng })] as [string, Query]]),
    ...shorterQueries(answer)
      .slice(0, 4)
      .map((text): [string, Query] => [say('tryQuery', { query: text }), withText(query, text)]),
    [say('seeAll'), EMPTY_QUERY],
  ];
  return (
    <div data-part="nothing">
      <p data-part="nothing-title">
        {query.q === ''
          ? say(hasChoices ? 'nothingChosen' : 'nothing')
          : say(hasChoices ? 'nothingForChosen' : 'nothingFor', { query: query.q })}
      </p>
      {answer.understood.wordless && <p data-part="soft">{say('wordless')}</p>}
      {unknown.length > 0 && <p data-part="soft">{say('unknown', { words: oneOf(unknown) })}</p>}
      <ul>
        {waysOut.map(([label, to]) => (
          <li key={label}>
            <a {...linkTo(to, navigation)} data-part="link">
              {label}
            </a>
          </li>
        ))}
      </ul>
    </div>
  );
}
