/** Where a result stands in the live and in the draft ranking; rows from 0, null = not among those shown. */
export interface Movement {
  id: string;
  live: number | null;
  draft: number | null;
  kind: 'same' | 'rises' | 'falls' | 'enters' | 'leaves';
}

/** How every result moved from one ranking to the other: first those of the draft in its order, then those that left. */
export function movements(live: readonly string[], draft: readonly string[]): Movement[] {
  const before = new Map(live.map((id, row) => [id, row]));
  const after = new Set(draft);
  const kept = draft.map((id, row): Movement => {
    const was = before.get(id);
    if (was === undefined) return { id, live: null, draft: row, kind: 'enters' };
    return { id, live: was, draft: row, kind: was === row ? 'same' : was > row ? 'rises' : 'falls' };
  });
  const gone = live.flatMap((id, row): Movement[] =>
    after.has(id) ? [] : [{ id, live: row, draft: null, kind: 'leaves' }],
  );
  return [...kept, ...gone];
}

/** "▲ 3", "▼ 2", "new": how far a result of the draft moved, in a sign and a number. */
export function movedWords({ kind, live, draft }: Movement): { sign: string; words: string } {
  const by = live === null || draft === null ? 0 : Math.abs(live - draft);
  const places = `${by} ${by === 1 ? 'place' : 'places'}`;
  switch (kind) {
    case 'rises':
      return { sign: `▲ ${by}`, words: `up ${places}` };
    case 'falls':
      return { sign: `▼ ${by}`, words: `down ${places}` };
    case 'enters':
      return { sign: 'new', words: 'not near the top of live' };
    case 'leaves':
      return { sign: 'gone', words: 'not near the top of the draft' };
    case 'same':
      return { sign: '', words: 'same place' };
  }
}
