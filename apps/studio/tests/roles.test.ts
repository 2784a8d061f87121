import type { FieldProfile, Profile, TuningDocument } from '@yucca/contract';
import { Profiler } from '@yucca/engine/profile';
import type { Failure } from '../src/server/failure';
import { checkTuning } from '../src/server/tuning/tuning';
import {
  openProposals,
  rolesOf,
  withExact,
  withFacet,
  withFacetOrder,
  withFacetPart,
  withLanguage,
  withLanguageField,
  withMarked,
  withProposals,
  withSearch,
  withShown,
  withSignal,
  withSort,
} from '../src/features/fields/roles';

const profile: Profile = (() => {
  const profiler = new Profiler('id');
  for (let i = 0; i < 60; i++) {
    profiler.add({
      id: `p${i}`,
      name: `Rose number ${i}`,
      kind: ['tree', 'shrub'][i % 2],
      price: i,
      sales: i * i,
      added: `2026-05-${10 + (i % 20)}`,
      checksum: `${i}f3a9c${i}`.padEnd(40, '0a1b'),
      makers: [{ id: `m${i % 5}`, name: `Maker ${i % 5}` }],
    });
  }
  return profiler.finish();
})();
const { fields } = profile;
const field = (path: string): FieldProfile => fields.find((one) => one.path === path)!;

test('with nothing named every text field is searched alike, until one gets a weight', () => {
  expect(rolesOf({}, field('name')).search).toEqual({ weight: 1, implicit: true });
  expect(rolesOf({}, field('price')).search).toBeNull();
  const weighted = withSearch({}, 'name', 5, fields);
  expect(rolesOf(weighted, field('name')).search).toEqual({ weight: 5, implicit: false });
  expect(rolesOf(weighted, field('kind')).search).toEqual({ weight: 1, implicit: false });
  expect(rolesOf(withSearch(weighted, 'kind', null, fields), field('kind')).search).toBeNull();
});

test('a facet keeps what was chosen for it when its kind changes, and goes when it is taken away', () => {
  const made = withFacet({}, 'makers.id', 'values', field('makers.id').proposal.facet);
  expect(made.facets).toEqual([{ name: 'makers', field: 'makers.id', kind: 'values', labelField: 'makers.name' }]);
  const labelled = withFacetPart(made, 'makers.id', { label: 'Maker' });
  expect(withFacet(labelled, 'makers.id', 'tree').facets![0]).toMatchObject({ kind: 'tree', label: 'Maker' });
  expect(withFacetPart(labelled, 'makers.id', { label: undefined }).facets![0]).not.toHaveProperty('label');
  expect(withFacet(labelled, 'makers.id', null).facets).toEqual([]);
});

test('two facets never have one name, and stand in the order asked for', () => {
  const taken: TuningDocument = { facets: [{ name: 'kind', field: 'other' }] };
  const both = withFacet(taken, 'kind', 'values');
  expect(both.facets!.map(({ name }) => name)).toEqual(['kind', 'kind-2']);
  expect(withFacetOrder(both, ['kind-2', 'kind']).facets!.map(({ field: path }) => path)).toEqual(['kind', 'other']);
});

test('sorts fit the field, and go together', () => {
  expect(withSort({}, field('price'), true).sorts!.map(({ name }) => name)).toEqual(['price-low', 'price-high']);
  expect(withSort({}, field('added'), true).sorts).toEqual([
    { name: 'added-newest', label: 'Newest first', by: [{ field: 'added', order: 'desc' }] },
  ]);
  expect(withSort(withSort({}, field('price'), true), field('price'), false).sorts).toEqual([]);
});

test('showing, marking, signals and strictness go on and off', () => {
  const hidden = withShown({}, 'checksum', false);
  expect([rolesOf(hidden, field('checksum')).shown, rolesOf(hidden, field('name')).shown]).toEqual([false, true]);
  expect(rolesOf(withShown(hidden, 'checksum', true), field('checksum')).shown).toBe(true);
  expect(rolesOf(withShown({ show: ['name'] }, 'price', true), field('price')).shown).toBe(true);
  const unmarked = withMarked({}, 'name', false, fields);
  expect([rolesOf(unmarked, field('name')).marked, rolesOf(unmarked, field('kind')).marked]).toEqual([false, true]);
  expect(rolesOf(withMarked(unmarked, 'name', true, fields), field('name')).marked).toBe(true);
  const signal = withSignal(withSignal({}, 'sales', 'log'), 'sales', 'linear');
  expect(signal.signals).toEqual([{ field: 'sales', shape: 'linear' }]);
  expect(withSignal(signal, 'sales', null).signals).toEqual([]);
  expect(withExact(withExact({}, 'id', true), 'id', false).typos!.exactFields).toEqual([]);
});

test('proposals of very many fields are modest, and the server takes them', () => {
  const profiler = new Profiler('id');
  const about = 'It grows well in any soil and asks for water only in the driest weeks of the summer. '.repeat(3);
  for (let i = 0; i < 40; i++)
    profiler.add({
      id: `p${i}`,
      name: `Plant ${i}`,
      ...Object.fromEntries(
        Array.from({ length: 80 }, (_, n): [string, unknown][] => [
          [`kind ${n}`, ['tree', 'shrub', 'fern'][(i + n) % 3]],
          [`about ${n}`, `<p>${about}${i}</p>`],
          [`size ${n}`, i * n],
          [`${'long '.repeat(40)}${n}`, ['a', 'b'][i % 2]],
        ]).flat(),
      ),
    });
  const many = profiler.finish().fields;
  const tuned = withProposals({}, many);
  expect(() => checkTuning(tuned)).not.toThrow();
  expect(tuned.facets!.length).toBeLessThanOrEqual(8);
  expect(tuned.sorts!.length).toBeLessThanOrEqual(12);
  expect(tuned.search).toHaveLength(60);
  expect(tuned.search).toContainEqual({ field: 'name', weight: 10 });
  expect(() => checkTuning(withSearch({}, 'size 3', 5, many))).not.toThrow();
  expect(withSearch({}, 'kind 1', 5, many).search).toContainEqual({ field: 'kind 1', weight: 5 });
  // What was not proposed at once is there for whoever looks for it.
  const further = many.filter(({ proposal }) => proposal.facet?.further);
  expect(further.length).toBeGreaterThan(50);
  expect(withFacet(tuned, further[0]!.path, 'values').facets).toHaveLength(tuned.facets!.length + 1);
});

test('all proposals taken make a tuning the server takes, and leave nothing proposed', () => {
  const tuned = withProposals({}, fields);
  expect(() => checkTuning(tuned)).not.toThrow();
  expect(fields.flatMap((one) => openProposals(tuned, one))).toEqual([]);
  expect(tuned.search![0]).toEqual({ field: 'id', weight: 1 });
  expect(tuned.hide).toEqual(['checksum']);
  expect(withProposals(tuned, fields)).toEqual(tuned);
});

test('languages: of a field, of records, and what is proposed of both', () => {
  const profiler = new Profiler('id');
  for (let i = 0; i < 40; i++)
    profiler.add({ id: `p${i}`, title: `Rose ${i}`, title_de: `Rose ${i}`, lang: ['en', 'fr', 'de-AT'][i % 3]! });
  const { fields: spoken } = profiler.finish();
  const of = (path: string): FieldProfile => spoken.find((one) => one.path === path)!;
  expect(openProposals({}, of('title_de'))).toContain('language');
  expect(openProposals({ language: 'de' }, of('title_de'))).not.toContain('language');
  const taken = withProposals({}, spoken);
  expect(taken.languageField).toBe('lang');
  expect(taken.otherLanguages).toEqual(
    expect.arrayContaining([
      { language: 'de', fields: ['title_de'] },
      { language: 'fr', fields: [] },
    ]),
  );
  expect(taken.otherLanguages).toHaveLength(2);
  expect(() => checkTuning(taken)).not.toThrow();
  expect(spoken.flatMap((one) => openProposals(taken, one))).not.toContain('language');

  const moved = withLanguage(taken, 'title_de', 'fr');
  expect([rolesOf(moved, of('title_de')).language, rolesOf(moved, of('lang')).tellsLanguage]).toEqual(['fr', true]);
  expect(moved.otherLanguages).toContainEqual({ language: 'de', fields: [] });
  expect(rolesOf(withLanguage(moved, 'title_de', null), of('title_de')).language).toBeNull();
  expect(withLanguageField(moved, null).languageField).toBeNull();
});

test('a language is named once, and a field has one', () => {
  const refused = (otherLanguages: TuningDocument['otherLanguages']): string[] => {
    try {
      checkTuning({ otherLanguages });
      return [];
    } catch (error) {
      return (error as Failure).parts.map(({ pointer }) => pointer);
    }
  };
  expect(refused([{ language: 'de' }, { language: 'fr' }, { language: 'de' }])).toEqual(['/otherLanguages/2/language']);
  expect(
    refused([
      { language: 'de', fields: ['a', 'b'] },
      { language: 'fr', fields: ['c', 'b'] },
    ]),
  ).toEqual(['/otherLanguages/1/fields/1']);
  expect(refused([{ language: 'no tag' }])).toEqual(['/otherLanguages/0/language']);
});
