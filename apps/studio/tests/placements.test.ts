import type { Reason, TuningDocument } from '@yucca/contract';
import fc from 'fast-check';
import {
  doesSomething,
  isOn,
  placementOf,
  whatWords,
  whenWords,
  withHidden,
  withoutPin,
  withPin,
  withPlacement,
  withShown,
} from '../src/features/tuning/placements/placements';
import { commonWords } from '../src/features/tuning/where/common-words';
import { reasonSentence, remediesFor } from '../src/features/tuning/where/remedies';
import { checkTuning } from '../src/server/tuning/tuning';

test('a pin makes a placement for the query, and taking the last one back takes it away', () => {
  const one = withPin({}, ' Tulip  bulbs ', 'P-1', 1);
  expect(one.placements).toEqual([{ name: 'for-tulip-bulbs', when: { query: 'Tulip  bulbs' }, pin: [{ id: 'P-1', at: 1 }], hide: [] }]); // prettier-ignore
  const two = withPin(one, 'tulip bulbs', 'P-2', 1);
  expect(placementOf(two, 'TULIP BULBS')!.pin).toEqual([
    { id: 'P-2', at: 1 },
    { id: 'P-1', at: 2 },
  ]);
  expect(withoutPin(withoutPin(two, 'tulip bulbs', 'P-1'), 'tulip bulbs', 'P-2').placements).toEqual([]);
  expect(withPin({}, '', 'P-1', 1).placements![0]!.name).toBe('before-typing');
});

test('however records are pinned and hidden, each stands at a place of its own and the server takes it', () => {
  const step = fc.record({
    id: fc.constantFrom('a', 'b', 'c', 'd'),
    at: fc.integer({ min: 1, max: 4 }),
    act: fc.constantFrom('pin', 'pin', 'free', 'hide'),
  });
  fc.assert(
    fc.property(fc.array(step, { maxLength: 12 }), (steps) => {
      // Another placement that does nothing yet is somebody's work in progress: it stays.
      const other = { name: 'other', when: { query: 'fern', is: 'starts' as const } };
      let document: TuningDocument = { placements: [other] };
      for (const { id, at, act } of steps) {
        if (act === 'pin') {
          document = withPin(document, 'fern', id, at);
          expect(placementOf(document, 'fern')!.pin).toContainEqual({ id, at });
        } else document = act === 'free' ? withoutPin(document, 'fern', id) : withHidden(document, 'fern', id);
        expect(() => checkTuning(document)).not.toThrow();
        expect(document.placements![0]).toEqual(other);
        const mine = placementOf(document, 'fern');
        const places = (mine?.pin ?? []).map((pin) => pin.at);
        expect(new Set(places).size).toBe(places.length);
        expect((mine?.pin ?? []).some((pin) => mine?.hide?.includes(pin.id))).toBe(false);
        expect(mine === null || doesSomething(mine)).toBe(true);
      }
    }),
  );
});

test('when and what, in words', () => {
  const spring = {
    name: 'spring',
    when: { query: 'tulip', is: 'starts' as const, select: { colour: ['red'] }, from: '2026-03-01', to: '2026-05-31' },
    pin: [{ id: 'P-1', at: 1 }],
    notice: 'Out now',
  };
  expect(whenWords(spring)).toBe('the query starts with “tulip”, colour is red, Mar 1, 2026 to May 31, 2026');
  expect(whatWords(spring)).toBe('1 pinned, a notice');
  expect([isOn(spring, '2026-02-28'), isOn(spring, '2026-03-01'), isOn(spring, '2026-06-01')]).toEqual([false, true, false]); // prettier-ignore
  expect(whenWords({ name: 'x', when: {} })).toBe('any query');
  expect(whatWords({ name: 'x', when: {} })).toBe('nothing yet');
  expect(withPlacement({ placements: [spring] }, 'spring', { ...spring, name: 'may' }).placements![0]!.name).toBe(
    'may',
  );
});

describe('what could be done for a record that does not come up', () => {
  const word = (word: string, nearest: { text: string; typos: number; begins?: boolean } | null, typosAllowed = 0) => ({
    kind: 'word' as const,
    word,
    typosAllowed,
    nearest: nearest && { field: 'name', begins: false, ...nearest },
  });
  const offered = (
    reasons: Reason[],
    { words = 1, document = {} }: { words?: number; document?: TuningDocument } = {},
  ) =>
    remediesFor({ found: { id: 'P-1', place: null, total: 0, result: null, reasons }, text: 'fern', words, document });
  const labels = (...args: Parameters<typeof offered>): string[] => offered(...args).map(({ label }) => label);
  const PIN = 'Pin it first for “fern”';

  test('a spelling further off than is forgiven: a synonym, or more typos, or a pin', () => {
    const reason = word('fushia', { text: 'fuchsia', typos: 2 }, 1);
    expect(reasonSentence(reason)).toBe(
      'It does not hold “fushia”; nearest is “fuchsia” in name, 2 typos off where one is allowed.',
    );
    const [synonym, typos, pin] = offered([reason]);
    expect(synonym!.label).toBe('Let “fushia” find “fuchsia”');
    expect(synonym!.apply({}).synonyms).toEqual([{ kind: 'oneWay', from: ['fushia'], to: ['fuchsia'] }]);
    expect(typos!.label).toBe('Allow two typos from 6 letters');
    expect(checkTuning(typos!.apply({})).typos).toMatchObject({ enabled: true, twoFrom: 6 });
    expect(placementOf(pin!.apply({}), 'fern')!.pin).toEqual([{ id: 'P-1', at: 1 }]);
  });

  test('one word of several, an unfinished one, a hidden record, a group', () => {
    const one = [word('zebra', null)];
    expect(labels(one, { words: 2 })).toEqual(['“zebra” as a stop word', 'Ask for most words, not all', PIN]);
    expect(offered(one, { words: 2 })[0]!.apply({ stopWords: ['a'] }).stopWords).toEqual(['a', 'zebra']);
    // What the draft does already is not offered again.
    expect(labels(one, { words: 2, document: { words: { require: 'most' }, stopWords: ['zebra'] } })).toEqual([PIN]);
    expect(labels(one)).toEqual([PIN]);
    const [unfinished] = offered([word('snak', { text: 'snake', typos: 0, begins: true })]);
    expect(unfinished!.apply({}).words).toEqual({ prefix: 'all' });
    const hidden = withHidden({}, 'fern', 'P-1');
    const [show] = offered([{ kind: 'hidden', placement: 'for-fern' }], { document: hidden });
    expect(show!.apply(hidden)).toEqual(withShown(hidden, 'for-fern', 'P-1'));
    expect(show!.apply(hidden).placements).toEqual([]);
    const grouped = { group: { field: 'family' } };
    const [ungroup] = offered([{ kind: 'group', field: 'family' }], { document: grouped });
    expect(ungroup!.apply(grouped).group).toBeNull();
    expect(labels([{ kind: 'absent' }])).toEqual([]);
  });

  test('a record that stands too low for a misspelling gets it read right; one that is seen needs nothing', () => {
    const why = { words: 1, typos: 1, text: 50, signals: 0, score: 50, parts: [{ word: 'Geraniam', matched: 'geranium', how: 'typo' as const, field: 'name', points: 50 }] }; // prettier-ignore
    const result = { id: 'P-1', record: {}, marks: {}, snippets: {}, why };
    const at = (place: number): string[] =>
      remediesFor({ found: { id: 'P-1', place, total: 60, result, reasons: [] }, text: 'fern', words: 1, document: {} }).map(({ label }) => label); // prettier-ignore
    expect(at(54)).toEqual(['Let “Geraniam” find “geranium”', PIN]);
    expect(at(3)).toEqual([]);
  });

  test('every reason has a sentence', () => {
    const reasons = [
      { kind: 'absent' },
      { kind: 'filter' },
      { kind: 'near' },
      { kind: 'far' },
      { kind: 'choice', facet: 'colour' },
      { kind: 'excluded', word: 'bonsai' },
      { kind: 'hidden', placement: 'sold-out' },
      { kind: 'group', field: 'family' },
      word('zebra', null),
    ] as const;
    const sentences = reasons.map(reasonSentence);
    expect(new Set(sentences).size).toBe(reasons.length);
    sentences.forEach((sentence) => expect(sentence).toMatch(/^[A-Z].*\.$/));
  });
});

test('the word that the wanted records share and the others do not', () => {
  const wanted = ['Meadow cranesbill ‘Pebble’ Geranium pratense', 'Rock cranesbill Geranium', 'Geranium sanguineum'];
  const others = ['Rose geranium', 'Ivy-leaved geranium'];
  expect(commonWords(wanted, others, 'geraniam')).toEqual([{ word: 'cranesbill', count: 2 }]);
  expect(commonWords(wanted, [], 'rock')[0]).toEqual({ word: 'geranium', count: 3 });
  expect(commonWords(['Only one'], [], 'x')).toEqual([]);
});
