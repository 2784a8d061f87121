/** What visitors meant, told from what they typed: the rules one by one, and a typist whose intentions are known. */
import { masked, settle, type VisitSearch } from '../src/visitors';

const LATER = 1e9;
type Typed = [seconds: number, q: string, how?: 'chosen' | 'acted'];
const searches = (...typed: Typed[]): VisitSearch[] =>
  typed.map(([seconds, q, how]) => ({ at: seconds * 1_000, q, chosen: how === 'chosen', acted: how === 'acted' }));
const meant = (...typed: Typed[]): string[] => settle(searches(...typed), LATER).settled.map(({ search }) => search.q);

test.each<[string, Typed[], string[]]>([
  ['of a trail of letters the last counts', [[0, 'r'], [0.2, 'ro'], [0.4, 'ros'], [0.6, 'rose']], ['rose']],
  ['a pause inside a trail does not part it', [[0, 'la'], [3, 'lav'], [5.9, 'lavender']], ['lavender']],
  ['a longer one does', [[0, 'rose'], [4, 'rose white']], ['rose', 'rose white']],
  ['taken back and typed anew is one trail', [[0, 'lavendr'], [0.3, 'lavend'], [0.6, 'lavender']], ['lavender']],
  ['corrected by a completion', [[0, 'lavandr'], [9, 'lavender', 'chosen']], ['lavender']],
  ['another word after a rest is another query', [[0, 'rose'], [2, 'fern']], ['rose', 'fern']],
  ['another word at once was a slip', [[0, 'rose'], [1, 'fern']], ['fern']],
  ['letter by letter to nothing, and another', [[0, 'rose'], [2, 'ros'], [2.2, 'r'], [2.4, ''], [2.6, 'f'], [3, 'fern']], ['rose', 'fern']],
  ['acting ends a trail', [[0, 'ros', 'acted'], [1, 'rose']], ['ros', 'rose']],
  ['an empty field is no query', [[0, ''], [9, '  ']], []],
  ['a completion that is chosen at once counts', [[0, 'ro'], [0.5, 'rose', 'chosen'], [1, 'fern']], ['rose', 'fern']],
])('%s', (_, typed, expected) => {
  expect(meant(...typed)).toEqual(expected);
}); // prettier-ignore

test('a trail that may go on stays open, and is no less for it', () => {
  const typed = searches([0, 'ro'], [0.2, 'ros'], [0.4, 'rose']);
  expect(settle(typed, 4_000)).toMatchObject({ settled: [], open: [{ q: 'ro' }, { q: 'ros' }, { q: 'rose' }] });
  expect(settle(typed, 4_400)).toMatchObject({ settled: [{ search: { q: 'rose' }, trail: typed }], open: [] });
});

test('every search of a trail leads to the query that counts', () => {
  const typed = searches([0, 'ro'], [0.3, 'rose'], [3, 'ros'], [3.2, ''], [3.4, 'f'], [3.6, 'fern']);
  const { settled } = settle(typed, LATER);
  expect(settled.map(({ search, trail }) => [search.q, trail.map(({ q }) => q)])).toEqual([
    ['rose', ['ro', 'rose']],
    ['fern', ['f', 'fern']],
  ]);
});

/** Numbers from 0 to 1, the same in every run (xorshift32, Marsaglia 2003). */
function dice(seed: number): () => number {
  let state = seed;
  return () => {
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    return (state >>> 0) / 2 ** 32;
  };
}

const WORDS = ['lavender', 'rose', 'fern', 'hosta', 'agave', 'snake plant', 'climbing rose', 'white foxglove', 'pots', 'spade', 'clematis', 'box hedge', 'tomato seeds', 'daffodil bulbs', 'ivy', 'hydrangea', 'bamboo', 'olive tree', 'thyme', 'mint']; // prettier-ignore

/** Somebody at a keyboard: how they type, think, slip, take back, choose what is offered, open what is found. */
function visit(random: () => number): { typed: VisitSearch[]; intentions: string[] } {
  const typed: VisitSearch[] = [];
  const intentions: string[] = [];
  let at = random() * 1e6;
  let field = '';
  const pace = 80 + random() * 500;
  const wait = (least: number, most: number): void => void (at += least + random() * (most - least));
  const show = (q: string, chosen = false): void => {
    field = q;
    typed.push({ at, q, chosen, acted: false });
  };
  const key = (q: string): void => {
    wait(pace * 0.5, pace * 1.6);
    // Now and then somebody looks for the next letter, or thinks.
    if (random() < 0.03) wait(300, 3_000);
    show(q);
  };
  const clear = (): void => {
    // Marked and overwritten, or letter by letter.
    if (random() < 0.5) field = '';
    else while (field !== '') key(field.slice(0, -1));
  };
  for (let n = 1 + Math.floor(random() * 4); n > 0; n--) {
    const word = WORDS[Math.floor(random() * WORDS.length)]!;
    if (intentions.at(-1) === word) continue;
    clear();
    intentions.push(word);
    while (field !== word) {
      if (random() < 0.04) {
        const slip = field + 'qxz'[Math.floor(random() * 3)]!;
        key(slip);
        wait(100, 1_200);
        key(slip.slice(0, -1));
      }
      if (field.length >= 3 && random() < 0.06) {
        wait(500, 2_500);
        show(word, true);
      } else key(word.slice(0, field.length + 1));
    }
    // They look at what is found, and some open it.
    wait(1_600, 20_000);
    if (random() < 0.4) {
      typed.at(-1)!.acted = true;
      wait(2_000, 60_000);
    }
  }
  return { typed, intentions };
}

test('a simulated typist: at least 97 of 100 intentions are counted once, and nothing else', () => {
  const random = dice(20_261_128);
  let all = 0;
  let once = 0;
  let more = 0;
  for (let i = 0; i < 2_000; i++) {
    const { typed, intentions } = visit(random);
    const counted = settle(typed, typed.at(-1)!.at + 10_000).settled.map(({ search }) => search.q);
    all += intentions.length;
    // In their order: an intention is counted once when it is the next that is counted.
    let next = 0;
    for (const intention of intentions) {
      const found = counted.indexOf(intention, next);
      if (found < 0) continue;
      more += found - next;
      next = found + 1;
      once++;
    }
    more += counted.length - next;
  }
  expect(all).toBeGreaterThan(4_000);
  expect(once / all).toBeGreaterThanOrEqual(0.97);
  expect(more / all).toBeLessThanOrEqual(0.03);
});

test.each([
  ['write to anna.lind@example.org please', 'write to (e-mail) please'],
  ['4111 1111 1111 1111', '(card)'],
  ['4111111111111112', '4111111111111112'],
  ['call +44 20 7946 0958', 'call (phone)'],
  ['(020) 7946-0958', '(phone)'],
  ['rose 2024', 'rose 2024'],
  ['pot 30 40 50 cm', 'pot 30 40 50 cm'],
  ['P-0042 P-0043', 'P-0042 P-0043'],
  ['5901234123457', '5901234123457'],
])('what may name a person is masked: %s', (q, kept) => {
  expect(masked(q)).toBe(kept);
});

test('masking takes no time, whatever stands there', () => {
  const start = performance.now();
  for (const piece of ['a', '1', '1 ', '@', 'a@', '0-', '+1']) masked(piece.repeat(512).slice(0, 512));
  expect(performance.now() - start).toBeLessThan(200);
});
