/** @jest-environment jsdom */
import { completeTuning, type FieldProfile, type TuningDocument, type TypoExamples } from '@yucca/contract';
import { act, configure, fireEvent, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ReactNode } from 'react';
import { DraftProvider, useDraft } from '../src/features/tuning/draft';
import { LanguageLevers } from '../src/features/tuning/levers/languages';
import { SignalLevers } from '../src/features/tuning/levers/signals';
import { TypoLevers } from '../src/features/tuning/levers/typos';
import { Weights } from '../src/features/tuning/levers/weights';
import { WordLevers } from '../src/features/tuning/levers/words';

// What comes by itself comes late on a machine that does much else.
configure({ asyncUtilTimeout: 20_000 });

const EXAMPLES: TypoExamples = {
  tried: 500,
  gained: [{ typed: 'fern', as: 'fens', typos: 1, records: 4 }],
  gainedCount: 12,
  lost: [{ typed: 'rosa', as: 'rose', typos: 1, records: 1 }],
  lostCount: 1,
};

let saved: TuningDocument[] = [];
let examples: TypoExamples = EXAMPLES;

beforeEach(() => {
  saved = [];
  examples = EXAMPLES;
  const answer = (value: unknown): Response =>
    ({ ok: true, status: 200, headers: new Headers({ ETag: '"2"' }), json: () => Promise.resolve(value) }) as Response;
  window.fetch = (input, init) => {
    if (init?.method === 'PUT') saved.push(JSON.parse(init.body as string) as TuningDocument);
    if (String(input).endsWith('/typos')) return Promise.resolve(answer(examples));
    return Promise.resolve(answer(String(input).endsWith('/cost') ? { rebuild: false, seconds: 0 } : {}));
  };
});

/** Levers over a draft; `now` is the draft as it stands. */
function show(start: TuningDocument, levers: (tuning: ReturnType<typeof completeTuning>) => ReactNode) {
  let now: TuningDocument = start;
  function Inside() {
    const [{ document }, store] = useDraft();
    now = document;
    return (
      <>
        {levers(completeTuning(document))}
        <button onClick={() => store.undo()}>Undo</button>
      </>
    );
  }
  render(
    <DraftProvider collection="plants" start={{ live: start, draft: start, exists: false, tag: '"1"' }}>
      <Inside />
    </DraftProvider>,
  );
  return { draft: () => now };
}

/** Until the draft is saved, as it is after every change. */
const settled = (): Promise<void> => act(() => new Promise<void>((resolve) => setTimeout(resolve, 0)));

const typed = (name: string): HTMLInputElement => screen.getByRole('textbox', { name: `${name}, as a number` });

describe('weights', () => {
  const start = { search: [{ field: 'care', weight: 1 }, { field: 'name', weight: 8 }] }; // prettier-ignore

  test('the heaviest field stands first; a slide is one step to undo', async () => {
    const { draft } = show(start, (tuning) => <Weights tuning={tuning} collection="plants" />);
    expect(screen.getAllByRole('slider').map((slider) => slider.getAttribute('aria-label'))).toEqual(['name', 'care']);
    const slider = screen.getByRole('slider', { name: 'care' });
    for (const value of ['3', '5', '5.5']) fireEvent.change(slider, { target: { value } });
    await settled();
    expect(draft().search).toEqual([{ field: 'care', weight: 5.5 }, { field: 'name', weight: 8 }]); // prettier-ignore
    await userEvent.click(screen.getByRole('button', { name: 'Undo' }));
    expect(draft()).toEqual(start);
    await settled();
    expect(saved.at(-1)).toEqual(start);
  });

  test('a number is typed with a comma too; what is no weight stays in the field and changes nothing', async () => {
    const { draft } = show(start, (tuning) => <Weights tuning={tuning} collection="plants" />);
    const field = typed('name');
    fireEvent.change(field, { target: { value: '2,5' } });
    expect(draft().search![1]!.weight).toBe(2.5);
    fireEvent.change(field, { target: { value: '0' } });
    fireEvent.change(field, { target: { value: 'x' } });
    expect([field.value, draft().search![1]!.weight]).toEqual(['x', 2.5]);
    fireEvent.blur(field);
    expect(field.value).toBe('2.5');
    // More than the slider reaches, which then reaches as far.
    fireEvent.change(field, { target: { value: '40' } });
    await settled();
    expect(screen.getByRole('slider', { name: 'name' }).getAttribute('max')).toBe('40');
  });

  test('without fields it is said what that means', () => {
    show({}, (tuning) => <Weights tuning={tuning} collection="plants" />);
    expect(screen.getByText(/All text fields are searched alike/)).toBeTruthy();
    expect(screen.getByRole('link', { name: 'Choose fields' }).getAttribute('href')).toBe('/c/plants/fields');
  });
});

describe('words', () => {
  test('what is required, what may be unfinished, and words that may be missing', async () => {
    const { draft } = show({}, (tuning) => <WordLevers tuning={tuning} />);
    await userEvent.selectOptions(screen.getByRole('combobox', { name: 'Words required' }), 'as many as possible');
    await userEvent.selectOptions(screen.getByRole('combobox', { name: 'Unfinished words' }), 'none');
    await userEvent.click(screen.getByRole('checkbox', { name: 'Stemming: find other forms of a word' }));
    expect(draft()).toMatchObject({ words: { require: 'most', prefix: 'none' }, stems: false });
    const field = screen.getByRole('textbox', { name: 'Stop words' });
    await userEvent.type(field, 'the, a,{Enter} of,,');
    expect(draft().stopWords).toBeUndefined();
    await userEvent.tab();
    expect(draft().stopWords).toEqual(['the', 'a', 'of']);
  });
});

describe('typos', () => {
  const levers = (tuning: ReturnType<typeof completeTuning>): ReactNode => (
    <TypoLevers tuning={tuning} collection="plants" />
  );

  test('examples of what is read otherwise than under live; one is forbidden by its button', async () => {
    const { draft } = show({ typos: { exactWords: ['lily'] } }, levers);
    const group = await screen.findByRole('group', { name: 'Examples of typos' });
    expect(group.textContent).toContain('Now also taken for 12 pairs');
    expect(group.textContent).toContain('No longer taken for 1 pair');
    expect(within(group).getAllByRole('button').map(({ textContent }) => textContent)).toEqual(['not fern']); // prettier-ignore
    await userEvent.click(within(group).getByRole('button', { name: 'not fern' }));
    expect(draft().typos!.exactWords).toEqual(['lily', 'fern']);
  });

  test('where nothing is read otherwise that is said, and of an empty collection nothing', async () => {
    examples = { ...EXAMPLES, gained: [], gainedCount: 0, lost: [], lostCount: 0 };
    show({}, levers);
    expect(await screen.findByText(/None of the 500 commonest words is read otherwise/)).toBeTruthy();
  });

  test('switched off there is nothing to set, and switched on again all is as it was', async () => {
    const { draft } = show({ search: [{ field: 'sku' }, { field: 'name' }], typos: { oneFrom: 5 } }, levers);
    await userEvent.click(screen.getByRole('checkbox', { name: 'sku' }));
    expect(draft().typos).toMatchObject({ oneFrom: 5, exactFields: ['sku'] });
    await userEvent.click(screen.getByRole('checkbox', { name: 'Typo tolerance' }));
    expect(screen.queryByRole('slider')).toBeNull();
    await userEvent.click(screen.getByRole('checkbox', { name: 'Typo tolerance' }));
    expect(draft().typos).toMatchObject({ enabled: true, oneFrom: 5, exactFields: ['sku'] });
    fireEvent.change(screen.getByRole('slider', { name: 'One, from letters' }), { target: { value: '6' } });
    await settled();
    await userEvent.click(screen.getByRole('checkbox', { name: 'sku' }));
    expect(draft().typos).toMatchObject({ oneFrom: 6, exactFields: [] });
  });
});

describe('signals', () => {
  const spread = (unit: 'number' | 'day') => ({ unit, from: 0, width: 50, counts: [3, 1] });
  const fields = [
    { path: 'sales', spread: spread('number'), proposal: { signal: { shape: 'log' } } },
    { path: 'added', spread: spread('day'), proposal: {} },
    { path: 'name', spread: null, proposal: {} },
  ] as unknown as FieldProfile[];
  const levers = (tuning: ReturnType<typeof completeTuning>): ReactNode => (
    <SignalLevers tuning={tuning} live={completeTuning({})} collection="plants" fields={fields} />
  );

  test('numbers and dates can be added, each with the shape that fits it, and taken away', async () => {
    const { draft } = show({}, levers);
    const add = (): HTMLSelectElement => screen.getByRole('combobox', { name: 'Add a signal' });
    expect([...add().options].map(({ text }) => text)).toEqual(['Add a signal …', 'sales', 'added']);
    expect(screen.getByText(/words alone decide/)).toBeTruthy();
    await userEvent.selectOptions(add(), 'sales');
    await userEvent.selectOptions(add(), 'added');
    expect(draft().signals).toEqual([{ field: 'sales', shape: 'log' }, { field: 'added', shape: 'recency' }]); // prettier-ignore
    expect(screen.queryByRole('combobox', { name: 'Add a signal' })).toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'Remove signal sales' }));
    expect(draft().signals!.map(({ field }) => field)).toEqual(['added']);
  });

  test('a date’s worth has a half-life, and its direction is said in words of time', async () => {
    const { draft } = show({ signals: [{ field: 'added', shape: 'recency' }] }, levers);
    const better = screen.getByRole<HTMLSelectElement>('combobox', { name: 'Better is' });
    expect([...better.options].map(({ text }) => text)).toEqual(['newer', 'older']);
    fireEvent.change(typed('Half after days'), { target: { value: '30' } });
    await userEvent.selectOptions(better, 'older');
    fireEvent.change(screen.getByRole('slider', { name: 'Share against words' }), { target: { value: '0.4' } });
    await settled();
    expect(draft()).toMatchObject({ signals: [{ field: 'added', halfLifeDays: 30, order: 'asc' }], signalShare: 0.4 });
    await userEvent.selectOptions(screen.getByRole('combobox', { name: 'on a shape' }), 'linear');
    expect(screen.queryByRole('slider', { name: 'Half after days' })).toBeNull();
  });
});

describe('languages', () => {
  const field = (path: string, distinct: number): FieldProfile =>
    ({ path, types: { string: 9 }, lists: 0, distinct }) as unknown as FieldProfile;
  const fields = [field('title', 900), field('title_de', 900), field('lang', 3)];

  test('a language is added, gets a field, gives it back, and goes; each step can be undone', async () => {
    const user = userEvent.setup();
    const { draft } = show({}, (tuning) => <LanguageLevers tuning={tuning} fields={fields} />);
    await user.selectOptions(screen.getByRole('combobox', { name: 'Texts are in' }), 'French');
    await user.selectOptions(screen.getByRole('combobox', { name: 'Add a language that some are in' }), 'German');
    expect(draft()).toMatchObject({ language: 'fr', otherLanguages: [{ language: 'de', fields: [] }] });
    const german = screen.getByRole('group', { name: 'German' });
    expect(german.textContent).toContain('No texts yet');
    await user.selectOptions(within(german).getByRole('combobox', { name: 'Add a field in German' }), 'title_de');
    expect(draft().otherLanguages).toEqual([{ language: 'de', fields: ['title_de'] }]);
    await user.selectOptions(screen.getByRole('combobox', { name: 'Records name theirs in' }), 'lang');
    expect(draft().languageField).toBe('lang');
    await user.click(screen.getByRole('button', { name: 'Remove title_de from German' }));
    expect(screen.getByRole('group', { name: 'German' }).textContent).toContain('Records that name it.');
    await user.click(screen.getByRole('button', { name: 'Remove German' }));
    expect(draft().otherLanguages).toEqual([]);
    await user.click(screen.getByRole('button', { name: 'Undo' }));
    expect(draft().otherLanguages).toEqual([{ language: 'de', fields: [] }]);
    await settled();
  });

  test('with nothing named, any field of texts may be in another language; the field of languages has few values', () => {
    show({ otherLanguages: [{ language: 'de' }] }, (tuning) => <LanguageLevers tuning={tuning} fields={fields} />);
    const options = (name: string): string[] =>
      within(screen.getByRole('combobox', { name }))
        .getAllByRole('option')
        .map(({ textContent }) => textContent);
    expect(options('Add a field in German').slice(1)).toEqual(['title', 'title_de', 'lang']);
    expect(options('Records name theirs in')).toEqual(['no field', 'lang']);
    expect(options('Add a language that some are in')).not.toContain('German');
  });
});
