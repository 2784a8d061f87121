/** What can be learned from visitors, with simulated ones whose taste is known. */
import fc from 'fast-check';
import { clickModelOf, gradesFrom, teamDraft, verdictOf, winnerOf, type Shown, type Team } from '../src/visitors';

/** Numbers from 0 to 1, the same in every run (Mulberry32). */
function dice(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), state | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  };
}

describe('team-draft interleaving', () => {
  const rankings = fc.uniqueArray(fc.integer({ min: 0, max: 30 }).map(String), { maxLength: 12 });

  test('every record of both once; each side in its order; as many picks for each, give or take one', () => {
    fc.assert(
      fc.property(rankings, rankings, fc.infiniteStream(fc.boolean()), (a, b, coins) => {
        const drafted = teamDraft(a, b, () => coins.next().value as boolean);
        expect(drafted.map(({ id }) => id).sort()).toEqual([...new Set([...a, ...b])].sort());
        for (const [team, list] of [['a', a], ['b', b]] as const) {
          const picks = drafted.filter((one) => one.team === team).map(({ id }) => list.indexOf(id));
          expect(picks).toEqual([...picks].sort((x, y) => x - y));
        }
        // While both have records left.
        const ends = Math.min(a.length, b.length);
        const early = drafted.slice(0, ends);
        const picks = (team: Team): number => early.filter((one) => one.team === team).length;
        expect(Math.abs(picks('a') - picks('b'))).toBeLessThanOrEqual(1);
      }),
    ); // prettier-ignore
  });

  test('what both have at the same place stays there and counts for neither', () => {
    const drafted = teamDraft(['pin', 'x', 'y'], ['pin', 'y', 'x'], () => true);
    expect(drafted).toEqual([
      { id: 'pin', team: null },
      { id: 'x', team: 'a' },
      { id: 'y', team: 'b' },
    ]);
    expect(winnerOf(drafted, ['pin'])).toBeNull();
    expect(winnerOf(drafted, ['pin', 'x'])).toBe('a');
    expect(winnerOf(drafted, ['x', 'y', 'y'])).toBeNull();
  });

  /** Visitors who look at ranks less and less and open what they like. */
  function trial(random: () => number, likes: (id: string) => number, a: string[], b: string[], most: number) {
    const wins = { a: 0, b: 0 };
    for (let visitor = 0; visitor < most; visitor++) {
      const drafted = teamDraft(a, b, () => random() < 0.5);
      const opened = drafted.filter(({ id }, i) => random() < 0.85 ** i && random() < likes(id)).map(({ id }) => id);
      const winner = winnerOf(drafted, opened);
      if (winner !== null) wins[winner]++;
      const { preferred, confidence } = verdictOf(wins.a, wins.b);
      if (confidence >= 0.95) return preferred;
    }
    return null;
  }

  test('of two rankings the better one is found, and of two that are as good one in at most 5 of 100 trials', () => {
    const random = dice(2008);
    const ids = Array.from({ length: 10 }, (_, i) => `r${i}`);
    const likes = (id: string): number => 0.4 - Number(id.slice(1)) * 0.035;
    const worse = [...ids].reverse();
    let right = 0;
    for (let i = 0; i < 100; i++) if (trial(random, likes, ids, worse, 1_000) === 'a') right++;
    expect(right).toBeGreaterThanOrEqual(95);
    // Looked at after every visitor, and ended at the first sign of a winner.
    let wrong = 0;
    const even = (): number => 0.2;
    for (let i = 0; i < 1_000; i++) if (trial(random, even, ids, worse, 200) !== null) wrong++;
    expect(wrong / 1_000).toBeLessThanOrEqual(0.05);
  });

  test('confidence grows with the lead, and is symmetric', () => {
    expect(verdictOf(0, 0)).toEqual({ preferred: null, confidence: 0 });
    expect(verdictOf(30, 5)).toMatchObject({ preferred: 'a' });
    expect(verdictOf(5, 30).confidence).toBeCloseTo(verdictOf(30, 5).confidence, 12);
    expect(verdictOf(30, 5).confidence).toBeGreaterThan(0.99);
    expect(verdictOf(6, 5).confidence).toBeLessThan(0.5);
    expect(verdictOf(100_000, 98_000).confidence).toBeGreaterThan(0.95);
  });
});

describe('judgements from clicks', () => {
  const looks = (rank: number): number => 0.75 ** (rank - 1);
  /** By record: how many of those who look at it open it. */
  const TASTE: Record<string, number> = { best: 0.7, good: 0.4, related: 0.18, wrong: 0.03 };

  function visitors(random: () => number, order: readonly string[], times: number): Shown[] {
    return order.map((recordId, i): Shown => {
      let opened = 0;
      for (let n = 0; n < times; n++) if (random() < looks(i + 1) && random() < TASTE[recordId]!) opened++;
      return { query: 'fern', recordId, rank: i + 1, shown: times, opened };
    });
  }

  test('a good record at a bad rank is told from a bad one at a good rank', () => {
    const random = dice(2015);
    // The ranking has it wrong most of the time; now and then it changes, as rankings do.
    const rows = [
      ...visitors(random, ['wrong', 'related', 'good', 'best'], 3_000),
      ...visitors(random, ['related', 'best', 'wrong', 'good'], 600),
      ...visitors(random, ['best', 'wrong', 'related', 'good'], 400),
    ];
    const model = clickModelOf(rows);
    for (const [rank, share] of model.looked.entries()) expect(share).toBeCloseTo(looks(rank + 1), 1);
    const found = model.attraction.get('fern')!;
    for (const [recordId, share] of Object.entries(TASTE)) expect(found.get(recordId)!.share).toBeCloseTo(share, 1);
    expect(Object.fromEntries(gradesFrom(model).get('fern')!)).toEqual({ best: 3, good: 2, related: 1, wrong: 0 });
    // Clicks alone would have it otherwise: the best one is opened less often than the related one at rank 2 is.
    const plain = (recordId: string): number => {
      const own = rows.filter((row) => row.recordId === recordId);
      return own.reduce((sum, row) => sum + row.opened, 0) / own.reduce((sum, row) => sum + row.shown, 0);
    };
    expect(plain('best')).toBeLessThan(TASTE.good! + 0.05);
  });

  test('what was hardly shown is not graded; nothing at all makes an empty model', () => {
    const rows = [{ query: 'fern', recordId: 'P-1', rank: 1, shown: 19, opened: 19 }];
    expect(gradesFrom(clickModelOf(rows)).size).toBe(0);
    expect(clickModelOf([]).attraction.size).toBe(0);
  });

  test('any counts end in shares', () => {
    const row = fc.record({
      query: fc.constantFrom('a', 'b'),
      recordId: fc.constantFrom('x', 'y', 'z'),
      rank: fc.integer({ min: 1, max: 200 }),
      shown: fc.integer({ min: 0, max: 50 }),
      opened: fc.integer({ min: 0, max: 50 }),
    });
    fc.assert(
      fc.property(fc.array(row, { maxLength: 30 }), (rows) => {
        const sane = rows.map((one) => ({ ...one, opened: Math.min(one.opened, one.shown) }));
        const { looked, attraction } = clickModelOf(sane);
        const shares = [...looked, ...[...attraction.values()].flatMap((all) => [...all.values()].map(({ share }) => share))]; // prettier-ignore
        for (const share of shares) expect(share >= 0 && share <= 1).toBe(true);
      }),
    );
  });
});
