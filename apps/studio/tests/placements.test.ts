import type { TuningDocument } from '@yucca/contract';
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

describe('what could be done for a record that is not there', () => {
  const word = (word: string, nearest: { text: string; typos: number; begins?: boolean } | null, typosAllowed = 0) => ({
    kind: 'word' as const,
    word,
    typosAllowed,
    nearest: nearest && { field: 'name', begins: false, ...nearest },
  });

  test('a spelling further off than is forgiven: a synonym, or more typos', () => {
    const reason = word('fushia', { text: 'fuchsia', typos: 2 }, 1);
    expect(reasonSentence(reason)).toBe(
      'It does not hold “fushia”; nearest is “fuchsia” in name, 2 typos off where one is forgiven.',
    );
    const [synonym, typos, ...rest] = remediesFor([reason], 'P-1', 1);
    expect(rest).toEqual([]);
    expect(synonym!.label).toBe('Let “fushia” find “fuchsia”');
    expect(synonym!.apply({}).synonyms).toEqual([{ kind: 'oneWay', from: ['fushia'], to: ['fuchsia'] }]);
    expect(typos!.label).toBe('Forgive two typos from 6 letters');
    expect(checkTuning(typos!.apply({})).typos).toMatchObject({ enabled: true, twoFrom: 6 });
  });

  test('one word of several, an unfinished one, a hidden record, a group', () => {
    expect(remediesFor([word('zebra', null)], 'P-1', 2).map(({ label }) => label)).toEqual(['Ask for most words, not all']); // prettier-ignore
    expect(remediesFor([word('zebra', null)], 'P-1', 1)).toEqual([]);
    const [unfinished] = remediesFor([word('snak', { text: 'snake', typos: 0, begins: true })], 'P-1', 1);
    expect(unfinished!.apply({}).words).toEqual({ prefix: 'all' });
    const hidden = withHidden({}, 'fern', 'P-1');
    const [show] = remediesFor([{ kind: 'hidden', placement: 'for-fern' }], 'P-1', 1);
    expect(show!.apply(hidden)).toEqual(withShown(hidden, 'for-fern', 'P-1'));
    expect(show!.apply(hidden).placements).toEqual([]);
    const [ungroup] = remediesFor([{ kind: 'group', field: 'family' }], 'P-1', 1);
    expect(ungroup!.apply({ group: { field: 'family' } }).group).toBeNull();
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
