/** Ninety days of visitors at the nursery: weekdays, seasons, and the failures that people really make. */
import type { MultiSearch, PastSearch, SearchAnswer } from '@yucca/contract';
import { Chance } from './random.ts';

const DAY_MS = 86_400_000;
export const TRAFFIC_DAYS = 90;
/** Visits on a usual day. */
const VISITS_A_DAY = 32;
/** Of a week, from Sunday: people plant at the weekend. */
const WEEK = [1.5, 0.85, 0.75, 0.75, 0.8, 1, 1.45];

/** What somebody wants: what they type, and what they type next when that finds nothing or not the right thing. */
interface Wish {
  q: string;
  /** How often, beside others. */
  often: number;
  next?: readonly string[];
  /** From which result on they open something: what they want stands further down. */
  from?: number;
  /** They look and open nothing. */
  looksOnly?: true;
  select?: Record<string, string[]>;
  /** The share of those who choose it from what the field offers. */
  chosen?: number;
}

const wish = (q: string, often: number, more: Partial<Wish> = {}): Wish => ({ q, often, ...more });

/** By collection. Words of the trade that the data does not have, names of old and other shops' goods fail. */
const WISHES: Record<string, readonly Wish[]> = {
  plants: [
    wish('lavender', 30, { chosen: 0.4 }),
    wish('english lavender', 12, { chosen: 0.7 }),
    wish('rose', 26, { select: { colour: ['red'] } }),
    wish('red rose', 12),
    wish('snake plant', 18, { chosen: 0.5 }),
    wish('aloe vera', 14),
    wish('japanese maple', 14, { chosen: 0.5 }),
    wish('olive tree', 12),
    wish('lemon tree', 10),
    wish('boston fern', 9),
    wish('fern', 15, { select: { light: ['shade'] } }),
    wish('peace lily', 10),
    wish('moth orchid', 9),
    wish('hydrangea', 16, { select: { colour: ['blue'] } }),
    wish('tomato', 12),
    wish('strawberry', 9),
    wish('rosemary', 10),
    wish('wisteria', 8),
    wish('ground cover', 9, { from: 6 }),
    wish('bees', 10, { from: 7 }),
    wish('dry shade', 8, { from: 5 }),
    wish('agave', 11),
    wish('tulip', 9),
    wish('daffodil', 8),
    wish('evergreen', 7, { looksOnly: true }),
    wish('fragrant', 6, { looksOnly: true }),
    wish('hanging', 5, { looksOnly: true }),
    wish('geranium', 9, { from: 6 }),
    wish('mother in laws tongue', 6),
    wish('houseplant', 10, { next: ['house plant', 'indoor', 'indoor'] }),
    wish('climbing rose', 9, { next: ['climber'] }),
    wish('chilli', 7, { next: ['pepper', 'pepper', 'capsicum'] }),
    wish('bee friendly', 6, { next: ['bees'] }),
    wish('michaelmas daisy', 5, { next: ['aster'] }),
    wish('privet', 5, { next: ['hedge'] }),
    wish('poinsettia', 6),
    wish('secateurs', 5),
    wish('bonsai', 4, { next: ['bonsai tree'] }),
    wish('xeriscape', 3, { next: ['drought'] }),
    wish('toxic to cats', 3, { next: ['safe for cats'] }),
  ],
  guides: [
    wish('pruning roses', 8, { chosen: 0.4 }),
    wish('repotting', 7),
    wish('slugs', 6),
    wish('yellow leaves', 9),
    wish('winter care', 6),
    wish('watering in summer', 5),
    wish('greenfly', 5, { next: ['aphids'] }),
    wish('fertiliser', 5, { next: ['feeding'] }),
    wish('black spot', 4, { looksOnly: true }),
    wish('when to sow', 4, { from: 5 }),
  ],
};

/** What is asked for in a collection. */
export const wishesOf = (collection: string): readonly { q: string }[] => WISHES[collection] ?? [];

/** Of the visits at the nursery, those that read guides. */
const GUIDE_SHARE = 0.18;
const PAGES: Record<string, string> = { plants: 'page:nursery', guides: 'page:growing' };
const WIDTHS = ['width:phone', 'width:phone', 'width:phone', 'width:desktop', 'width:desktop', 'width:tablet'];

/** Asks several searches at once; the answers stand in their order. */
export type AskMany = (queries: MultiSearch['queries']) => Promise<SearchAnswer[]>;

/** What was found for each wish, as the running server finds it. */
type Found = Map<string, { total: number; ids: string[] }>;

/** The searches of the days before `now`, by collection, in the order of time. The same for the same data and day. */
export async function makeTraffic(ask: AskMany, now: number): Promise<Record<string, PastSearch[]>> {
  const all: Record<string, PastSearch[]> = {};
  const today = Math.floor(now / DAY_MS);
  for (const [collection, wishes] of Object.entries(WISHES)) {
    const found = await findAll(ask, collection, wishes);
    const chance = new Chance(`traffic of ${collection}`);
    const share = collection === 'guides' ? GUIDE_SHARE : 1 - GUIDE_SHARE;
    const searches: PastSearch[] = [];
    for (let day = today - TRAFFIC_DAYS + 1; day <= today; day++) {
      const visits = Math.round(VISITS_A_DAY * share * shareOfDay(day) * chance.between(0.85, 1.15));
      for (let n = 0; n < visits; n++) searches.push(...visit(chance, collection, wishes, found, day, n));
    }
    all[collection] = searches.filter(({ at }) => Date.parse(at) < now - 60_000).sort((a, b) => (a.at < b.at ? -1 : 1));
  }
  return all;
}

async function findAll(ask: AskMany, collection: string, wishes: readonly Wish[]): Promise<Found> {
  const texts = [...new Set(wishes.flatMap(({ q, next = [] }) => [q, ...next]))];
  const found: Found = new Map();
  for (let at = 0; at < texts.length; at += 10) {
    const part = texts.slice(at, at + 10);
    const answers = await ask(part.map((q) => ({ collection, q, size: 24, fields: [], record: false })));
    answers.forEach(({ total, results }, i) => found.set(part[i]!, { total, ids: results.map(({ id }) => id) }));
  }
  return found;
}

/** Weekdays, and spring and autumn, when people plant. */
function shareOfDay(day: number): number {
  const date = new Date(day * DAY_MS);
  const ofYear = (day % 365.25) / 365.25;
  return WEEK[date.getUTCDay()]! * (1 + 0.35 * Math.cos(4 * Math.PI * (ofYear - 0.3)));
}

function visit(chance: Chance, collection: string, wishes: readonly Wish[], found: Found, day: number, n: number) {
  const session = `${collection}-${day}-${n}`;
  // One in five has been here before.
  const viewer = chance.happens(0.2) ? `${collection}-regular-${chance.whole(1, 60)}` : session;
  const tags = [PAGES[collection]!, chance.pick(WIDTHS)];
  let at = day * DAY_MS + (7 + 15 * Math.sqrt(chance.next() * chance.next())) * 3_600_000;
  const searches: PastSearch[] = [];
  const ask = (q: string, more: Partial<PastSearch> = {}): PastSearch => {
    const { total } = found.get(q)!;
    const ms = 0.6 + 2.2 * chance.next() ** 3 + q.length / 40;
    const asked = { at: new Date(Math.round(at)).toISOString(), q, session, viewer, total, ms, tags, ...more };
    searches.push(asked);
    at += chance.between(8_000, 40_000);
    return asked;
  };
  for (let wants = chance.happens(0.3) ? 2 : 1; wants > 0; wants--) {
    const wanted = weighted(chance, wishes);
    const chosen = chance.happens(wanted.chosen ?? 0);
    const first = ask(wanted.q, { ...(chosen && { chosen }) });
    look(chance, first, found, wanted);
    if ((first.clicks ?? []).length === 0 && wanted.next && chance.happens(0.55))
      look(chance, ask(chance.pick(wanted.next)), found, {});
    at += chance.between(20_000, 200_000);
  }
  return searches;
}

function weighted(chance: Chance, wishes: readonly Wish[]): Wish {
  let left = chance.next() * wishes.reduce((sum, { often }) => sum + often, 0);
  return wishes.find(({ often }) => (left -= often) < 0) ?? wishes[0]!;
}

/** What comes into sight, and what of it is opened: ranks are looked at less and less (a cascade). */
function look(chance: Chance, search: PastSearch, found: Found, { from = 1, looksOnly, select }: Partial<Wish>): void {
  const { ids } = found.get(search.q)!;
  if (ids.length === 0) return;
  const seen = Math.min(ids.length, from + chance.whole(4, 12));
  search.shown = ids.slice(0, seen);
  if (select && chance.happens(0.35)) search.select = select;
  if (looksOnly) return;
  for (let rank = from; rank <= seen; rank++) {
    if (!chance.happens(rank === from ? 0.5 : 0.22)) continue;
    search.clicks = [{ recordId: ids[rank - 1]!, position: rank }];
    if (chance.happens(0.18)) search.conversions = 1;
    return;
  }
}
