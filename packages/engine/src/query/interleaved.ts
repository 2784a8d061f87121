import { LIMITS, type SearchRequest, type SearchResult, type Tuning } from '@yucca/contract';
import { fnvOfText } from '../bytes/fnv.ts';
import type { Generation } from '../segment/generation.ts';
import { DocSet } from '../sets/doc-set.ts';
import { teamDraft, type Team } from '../visitors/interleave.ts';
import { withArranged, type Arranged } from './arrange.ts';
import type { EngineAnswer, QueryContext } from './context.ts';
import { present } from './present/present.ts';
import { familyIn, type Found } from './rank/group.ts';
import type { Shown } from './rank/pins.ts';
import { answerOf } from './search.ts';

export interface InterleavedAnswer {
  answer: EngineAnswer;
  /** Records of this page that one ranking alone put there: a is the first, b the second. */
  teams: Record<string, Team>;
}

/**
 * One search answered from two tunings at once: their results are drafted into one list, in which no record comes
 * twice. `seed` decides the coins, so that the pages of one visitor fit together and other visitors get other ones.
 *
 * What the first tuning pins stays at its rank and counts for neither. The numbers (total, facets, what was understood)
 * are those of the tuning that finds more, so that no page of the list is empty. Both have to group alike. Throws like
 * search.
 */
export function interleaved(
  generation: Generation,
  first: Tuning,
  second: Tuning,
  request: SearchRequest,
  seed: string,
  context: QueryContext = {},
): InterleavedAnswer {
  return DocSet.scoped(() =>
    withArranged(generation, first, request, context, (a) => {
      const { page = 1, size = 20 } = request;
      // Records that the first pins are taken out of the second: there have to be as many left.
      const deep = { ...request, page: 1, size: Math.min(page * size + a.pins.length, LIMITS.resultWindow) };
      return withArranged(generation, second, deep, context, (b) => {
        const finds = b.total > a.total ? b : a;
        const rows = drafted(generation, first, a, b, seed).slice(
          (page - 1) * size,
          Math.min(page * size, finds.total),
        );
        const results = presented(rows, [
          { arranged: a, tuning: first },
          { arranged: b, tuning: second },
        ], request); // prettier-ignore
        const teams = rows.flatMap(({ team }, i) => (team === null ? [] : [[results[i]!.id, team] as const]));
        const tuning = finds === a ? first : second;
        return {
          answer: answerOf(generation, tuning, request, context, finds, results),
          teams: Object.fromEntries(teams),
        };
      });
    }),
  );
}

interface Row {
  shown: Shown;
  /** Which of the two it is taken from. */
  from: 0 | 1;
  team: Team | null;
}

function drafted(generation: Generation, { group }: Tuning, a: Arranged, b: Arranged, seed: string): Row[] {
  const columns = group === null ? [] : generation.segments.map(({ segment }) => segment.values(group.field));
  const familyOf = ({ segment, doc }: Found): string | null =>
    group === null ? null : familyIn(columns[segment]!, doc);
  const shownOf = new Map<string, number>();
  const count = (found: Found): void => {
    const family = familyOf(found);
    if (family !== null) shownOf.set(family, (shownOf.get(family) ?? 0) + 1);
  };
  // Those of later pages too: none may come before its turn.
  const pinned = new Set(a.pins.map(nameOf));
  for (const pin of a.pins) count(pin);
  const [ofA, ofB] = [a, b].map(
    ({ shown }) =>
      new Map(shown.map((one) => [nameOf(foundIn(one)), one] as const).filter(([name]) => !pinned.has(name))),
  ) as [Map<string, Shown>, Map<string, Shown>];
  const find = (name: string): Shown => ofA.get(name) ?? ofB.get(name)!;
  const fits = (name: string, team: Team): boolean => {
    const shown = (team === 'a' ? ofA : ofB).get(name)!;
    const family = familyOf(foundIn(shown));
    // What the second ranking pins stands there whatever its family shows, as in that ranking.
    return family === null || shown.pin !== null || (shownOf.get(family) ?? 0) < group!.keep;
  };
  const take = (name: string): void => count(foundIn(find(name)));
  const rows = teamDraft([...ofA.keys()], [...ofB.keys()], coinsOf(seed), { fits, take }).map(({ id, team }): Row => {
    const from = team === 'b' || !ofA.has(id) ? 1 : 0;
    return { shown: (from === 0 ? ofA : ofB).get(id)!, from, team };
  });
  a.shown.forEach((shown, at) => shown.pin !== null && rows.splice(at, 0, { shown, from: 0, team: null }));
  return rows;
}

const foundIn = (shown: Shown): Found => shown.pin ?? shown.candidate;

const nameOf = ({ segment, doc }: Found): string => `${segment} ${doc}`;

/** Heads or tails, the same for the same seed. */
function coinsOf(seed: string): () => boolean {
  let tossed = 0;
  return () => Math.imul(fnvOfText(`${seed} ${tossed++}`), 0x9e3779b1) >>> 31 === 1;
}

/** Each result as the ranking it comes from shows it: marks of words that only that one looks for. */
function presented(
  rows: readonly Row[],
  sides: readonly { arranged: Arranged; tuning: Tuning }[],
  request: SearchRequest,
): SearchResult[] {
  const results: SearchResult[] = [];
  sides.forEach(({ arranged, tuning }, side) => {
    const own = rows.flatMap(({ from }, i) => (from === side ? [i] : []));
    const shown = own.map((i) => rows[i]!.shown);
    present(arranged.matching, tuning, request, shown, arranged.others).forEach(
      (result, n) => (results[own[n]!] = result),
    );
  });
  return results;
}
