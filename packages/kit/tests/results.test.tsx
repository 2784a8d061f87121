/** @jest-environment jsdom */
import { fireEvent, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { shownHit } from '../src/card.ts';
import { EMPTY_QUERY, type Query } from '../src/index.ts';
import {
  AppliedChoices,
  MoreResults,
  NothingFound,
  Notice,
  Pages,
  ResultCard,
  ResultCount,
  SortChoice,
  Trouble,
} from '../src/react/index.ts';
import { respelt, shorterQueries } from '../src/react/results/nothing-found.tsx';
import { answerWith } from './answers.ts';

let went: Query[] = [];
beforeEach(() => {
  went = [];
});

/** Links that say in their address which page and text they lead to. */
const navigation = {
  hrefOf: ({ q, page }: Query): string => `#q=${q}&page=${page}`,
  go: (query: Query): void => void went.push(query),
};
const asked = (more: Partial<Query> = {}): Query => ({ ...EMPTY_QUERY, ...more });
const word = (text: string, as: string[] = [text], more = {}) => ({ text, typo: false, as, ...more });
const links = (): string[] => screen.getAllByRole('link').map(({ textContent }) => textContent!);

describe('how much was found', () => {
  const said = (answer: ReturnType<typeof answerWith>, text = ''): string => {
    const { container } = render(<ResultCount answer={answer} asked={text} />);
    return container.textContent!;
  };

  test.each([
    [{ results: 1 }, '', '1 result'],
    [{ results: 3 }, 'rose', '3 results for “rose”'],
    [{ results: 20, total: 3012 }, '', '3,012 results · 1 to 20 shown'],
    [{ results: 20, total: 3012, page: 3 }, '', '3,012 results · 41 to 60 shown'],
    [{ results: 12, total: 72, page: 4 }, '', '72 results · 61 to 72 shown'],
    [{ results: 60, total: 3012, page: 3 }, '', '3,012 results · 1 to 60 shown'],
    [{ results: 0 }, 'zzz', '0 results for “zzz”'],
  ])('%j asked with “%s”: %s', (facts, text, sentence) => {
    expect(said(answerWith(facts), text)).toBe(sentence);
  });

  test('a misspelt word is named with what it was taken for, a dropped one with why', () => {
    const words = [word('rsoe', ['rose', 'roses', 'rosa'], { typo: true }), word('red')];
    expect(said(answerWith({ results: 2, words }), 'rsoe red')).toBe(
      '2 results for “rsoe red” · Nothing is spelt “rsoe”; showing what comes nearest: rose, roses',
    );
    expect(said(answerWith({ results: 2, words: [word('red')], dropped: ['xyz'] }), 'red xyz')).toBe(
      '2 results for “red xyz” · Without “xyz”: nothing holds every word',
    );
    expect(said(answerWith({ words, dropped: ['xyz'] }), 'rsoe')).toBe('0 results for “rsoe”');
  });
});

describe('nothing found', () => {
  const nothing = (query: Query, facts = {}): void => {
    render(<NothingFound query={query} answer={answerWith({ query: query.q, ...facts })} {...navigation} />);
  };

  test('each way out leads to a query that has less in it', async () => {
    const near = { lat: 1, lng: 2, withinM: 5000 };
    nothing(asked({ q: 'red rsoe', select: { colour: ['red'] }, near, page: 3 }), {
      words: [word('red'), word('rsoe', [], { nearest: 'rose' })],
    });
    expect(screen.getByText(/Nothing found/).textContent).toBe('Nothing found for “red rsoe” with these choices.');
    expect(screen.getByText('Nothing here is spelt like “rsoe”.')).toBeTruthy();
    expect(links()).toEqual([
      'Try the spelling “red rose”',
      'Remove the choices',
      'Look further away',
      'Try “red”',
      'See everything',
    ]);
    for (const link of screen.getAllByRole('link')) await userEvent.click(link);
    expect(went).toEqual([
      asked({ q: 'red rose', select: { colour: ['red'] }, near }),
      asked({ q: 'red rsoe', near }),
      asked({ q: 'red rsoe', select: { colour: ['red'] }, near: { lat: 1, lng: 2 } }),
      asked({ q: 'red', select: { colour: ['red'] }, near }),
      EMPTY_QUERY,
    ]);
  });

  test('without words there is no talk of spelling', () => {
    nothing(asked({ select: { colour: ['red'] } }));
    expect(screen.getByText(/Nothing found/).textContent).toBe('Nothing found with these choices.');
    expect(links()).toEqual(['Remove the choices', 'See everything']);
  });

  test('shorter queries leave one word out each, and keep none that nothing is spelt like', () => {
    const [red, rose, zzz] = [word('red'), word('rose'), word('zzz', [])];
    const shorter = (...words: ReturnType<typeof word>[]) => shorterQueries(answerWith({ words }));
    expect(shorter(red, rose)).toEqual(['rose', 'red']);
    expect(shorter(red, rose, zzz)).toEqual(['red rose']);
    expect(shorter(red, zzz, { ...zzz, text: 'yyy' })).toEqual([]);
    expect(shorter(red)).toEqual([]);
  });

  test('respelling keeps what was typed around the word, and dollar signs mean nothing', () => {
    const other = (query: string, ...words: ReturnType<typeof word>[]) => respelt(answerWith({ query, words }));
    expect(other('  red, rsoe!', word('red'), word('rsoe', [], { nearest: 'rose' }))).toBe('  red, rose!');
    expect(other('rsoe', word('rsoe', [], { nearest: '$&' }))).toBe('$&');
    expect(other('rose', word('rose', [], { nearest: 'rose' }))).toBeNull();
    expect(other('rose', word('rose'))).toBeNull();
  });
});

describe('pages', () => {
  const numbers = (): string[] => [...screen.getByRole('navigation').children].map(({ textContent }) => textContent!);

  test('the first, the last and those around; a gap stands for at least two', () => {
    render(<Pages query={asked({ page: 6 })} answer={answerWith({ total: 400, page: 6 })} {...navigation} />);
    expect(numbers()).toEqual(['1', '…', '5', '6', '7', '…', '20']);
    expect(screen.getByRole('link', { current: 'page' }).textContent).toBe('6');
  });

  test('no more than can be asked for, and none where one page holds all', () => {
    render(<Pages query={asked()} answer={answerWith({ total: 90_000, results: 20 })} {...navigation} />);
    expect(numbers()).toEqual(['1', '2', '…', '500']);
    const { container } = render(<Pages query={asked()} answer={answerWith({ results: 20 })} {...navigation} />);
    expect(container.innerHTML).toBe('');
  });

  test('a plain click goes in place; a click for another tab is left to the browser', () => {
    render(<Pages query={asked({ q: 'rose' })} answer={answerWith({ total: 60 })} {...navigation} />);
    const second = screen.getByRole('link', { name: 'Page 2' });
    expect(second.getAttribute('href')).toBe('#q=rose&page=2');
    for (const key of [{ ctrlKey: true }, { metaKey: true }, { shiftKey: true }, { altKey: true }, { button: 1 }])
      expect(fireEvent.click(second, key)).toBe(true);
    expect(went).toEqual([]);
    expect(fireEvent.click(second)).toBe(false);
    expect(went).toEqual([asked({ q: 'rose', page: 2 })]);
  });
});

describe('more results', () => {
  type Watcher = { tell: (isIntersecting: boolean) => void; left: boolean };
  let watchers: Watcher[] = [];
  beforeEach(() => {
    watchers = [];
    window.IntersectionObserver = class {
      readonly #watcher: Watcher;
      constructor(callback: IntersectionObserverCallback) {
        const tell = (isIntersecting: boolean): void =>
          callback([{ isIntersecting }] as IntersectionObserverEntry[], this as unknown as IntersectionObserver);
        this.#watcher = { tell, left: false };
        watchers.push(this.#watcher);
      }
      observe(): void {}
      disconnect(): void {
        this.#watcher.left = true;
      }
    } as unknown as typeof IntersectionObserver;
  });
  const show = (facts: object, { loading = false, endless = false } = {}) => {
    const view = (more: object) => (
      <MoreResults
        query={asked({ q: 'rose' })}
        answer={answerWith({ total: 95, size: 20, ...more })}
        loading={loading}
        endless={endless}
        hrefOf={navigation.hrefOf}
        onMore={navigation.go}
      />
    );
    const { rerender, container } = render(view(facts));
    return { container, next: (more: object) => rerender(view(more)) };
  };

  test('the button says how many more, the last time how many are left', async () => {
    const { next } = show({ results: 20 });
    expect(links()).toEqual(['Show 20 more of 75']);
    await userEvent.click(screen.getByRole('link'));
    expect(went).toEqual([asked({ q: 'rose', page: 2 })]);
    next({ results: 80, page: 4 });
    expect(links()).toEqual(['Show 15 more of 15']);
    next({ results: 95, page: 5 });
    expect(screen.queryByRole('link')).toBeNull();
  });

  test('while it loads it asks for nothing a second time', async () => {
    show({ results: 20 }, { loading: true });
    const link = screen.getByRole('link');
    expect([link.textContent, link.getAttribute('aria-disabled')]).toEqual(['Loading more …', 'true']);
    await userEvent.click(link);
    expect(went).toEqual([]);
  });

  test('endless: coming into sight is enough, but the foot of the page can be reached now and then', () => {
    const { next } = show({ results: 20 }, { endless: true });
    watchers.at(-1)!.tell(false);
    expect(went).toHaveLength(0);
    watchers.at(-1)!.tell(true);
    expect(went.map(({ page }) => page)).toEqual([2]);
    next({ results: 40, page: 2 });
    expect(watchers.map(({ left }) => left)).toEqual([true, false]);
    watchers.at(-1)!.tell(true);
    expect(went.map(({ page }) => page)).toEqual([2, 3]);
    // After the fourth page somebody has to ask.
    next({ results: 80, page: 4 });
    expect(watchers.every(({ left }) => left)).toBe(true);
    expect(links()).toEqual(['Show 15 more of 15']);
  });

  test('a page that is not endless watches nothing', () => {
    show({ results: 20 });
    expect(watchers).toEqual([]);
  });
});

describe('a card', () => {
  const card = { title: 'name', picture: 'photo', text: 'about', number: 'price', detail: 'kind' };
  const hit = (record: object, marks = {}, more = {}) =>
    shownHit({ id: 'P-1', record: { ...record }, marks, snippets: {}, ...more }, card, 'https://shop.example');

  test('shows what it is told to, marked, with its picture from the right server', () => {
    const record = { name: 'Dog rose', photo: '/p/1.jpg', about: 'Pink in June.', price: 1204.5, kind: 'Shrub' };
    render(<ResultCard hit={hit(record, { '/name': [[4, 8]] })} href="/r/1" currency="EUR" distanceM={12_400} eager />);
    const article = within(screen.getByRole('article'));
    expect(article.getByRole('heading').innerHTML).toBe('<a href="/r/1">Dog <mark>rose</mark></a>');
    const picture = article.getByRole('presentation');
    expect(picture.getAttribute('src')).toBe('https://shop.example/p/1.jpg');
    // In the first row: before others, and painted with its text.
    expect(picture.getAttribute('fetchpriority')).toBe('high');
    expect(picture.hasAttribute('loading') || picture.hasAttribute('decoding')).toBe(false);
    expect(article.getByText('Shrub')).toBeTruthy();
    expect(article.getByText('12.4 km away')).toBeTruthy();
    expect(article.getByText('€1,204.50')).toBeTruthy();
  });

  test('without a title it is called by its key, without a page its title is no link, and nothing empty is drawn', () => {
    const { container } = render(<ResultCard hit={hit({ price: 1204.5 })} />);
    expect(screen.getByRole('heading').innerHTML).toBe('P-1');
    expect(screen.getByText('1,204.5')).toBeTruthy();
    expect(container.querySelectorAll('img, [data-part=card-detail], [data-part=card-text]')).toHaveLength(0);
  });

  test('a match in a field that is not shown is told with the field’s name', () => {
    render(<ResultCard hit={hit({ name: 'Fern', care_notes: ['Never dry'] }, { '/care_notes/0': [[0, 5]] })} />);
    expect(screen.getByText('Never').tagName).toBe('MARK');
    expect(screen.getByText(/Care notes/)).toBeTruthy();
  });

  test('opening it is told', async () => {
    const opened = jest.fn();
    render(<ResultCard hit={hit({ name: 'Fern' })} href="#fern" onOpen={opened} />);
    await userEvent.click(screen.getByRole('link', { name: 'Fern' }));
    expect(opened).toHaveBeenCalledTimes(1);
  });
});

test('choices above the results have the names of their values, and are taken back one by one or all at once', async () => {
  const query = asked({ q: 'x', select: { maker: ['S-12', 'S-9'], price: { min: 4 }, light: { max: 3 } }, page: 2 });
  const values = [{ value: 'S-12', label: 'Old Larder', count: 2, selected: true }];
  const facets = {
    maker: { kind: 'values' as const, label: 'Maker', values, more: false, missing: 0 },
  };
  render(<AppliedChoices query={query} answer={answerWith({ facets })} {...navigation} />);
  expect(links()).toEqual(['Old Larder ×', 'S-9 ×', 'price from 4 ×', 'light up to 3 ×', 'Remove all']);
  await userEvent.click(screen.getByRole('link', { name: 'Remove Old Larder' }));
  await userEvent.click(screen.getByRole('link', { name: 'Remove price from 4' }));
  await userEvent.click(screen.getByRole('link', { name: 'Remove all' }));
  expect(went.map(({ select, page, q }) => [q, page, select])).toEqual([
    ['x', 1, { maker: ['S-9'], price: { min: 4 }, light: { max: 3 } }],
    ['x', 1, { maker: ['S-12', 'S-9'], light: { max: 3 } }],
    ['x', 1, {}],
  ]);
  const { container } = render(<AppliedChoices query={asked()} answer={answerWith()} {...navigation} />);
  expect(container.innerHTML).toBe('');
});

test('orders: the usual one has no name in the query; where there is nothing to choose there is no choice', async () => {
  const sorts = [{ name: 'cheap', label: 'Cheapest' }];
  render(<SortChoice query={asked({ page: 4 })} sorts={sorts} onQuery={navigation.go} usual="Nearest" />);
  const choice = screen.getByRole<HTMLSelectElement>('combobox', { name: 'Sort by' });
  expect(choice.selectedOptions[0]!.text).toBe('Nearest');
  await userEvent.selectOptions(choice, 'Cheapest');
  expect(went).toEqual([asked({ sort: 'cheap' })]);
  fireEvent.change(choice, { target: { value: '' } });
  expect(went.at(-1)).toEqual(asked());
  const { container } = render(<SortChoice query={asked()} sorts={[]} onQuery={navigation.go} />);
  expect(container.innerHTML).toBe('');
});

test('what went wrong is said in the server’s words, or the line’s, and can be tried again', async () => {
  const retry = jest.fn();
  const problem = Object.assign(new Error('There is no collection called “plnats”.'), { name: 'ProblemError' });
  const { rerender } = render(<Trouble error={problem} onRetry={retry} />);
  const alert = screen.getByRole('alert');
  expect(alert.textContent).toContain('The search did not answer: There is no collection called “plnats”.');
  rerender(<Trouble error={new TypeError('fetch failed')} onRetry={retry} />);
  expect(alert.textContent).toBe(
    'Try againThe search did not answer. These are the last results. It is tried again by itself.',
  );
  rerender(<Trouble error={new TypeError('fetch failed')} hasResults={false} onRetry={retry} />);
  expect(alert.textContent).not.toContain('last results');
  const line = jest.spyOn(navigator, 'onLine', 'get').mockReturnValue(false);
  rerender(<Trouble error={null} onRetry={retry} />);
  expect(alert.textContent).toContain('The line is down. These are the last results.');
  line.mockRestore();
  await userEvent.click(within(alert).getByRole('button', { name: 'Try again' }));
  expect(retry).toHaveBeenCalledTimes(1);
});

test('the notice of a placement stands above the results; without one there is nothing', () => {
  render(<Notice answer={answerWith({ notice: 'Tulips are planted in autumn.' })} />);
  expect(screen.getByText('Tulips are planted in autumn.')).toBeTruthy();
  const { container } = render(<Notice answer={answerWith()} />);
  expect(container.innerHTML).toBe('');
});
