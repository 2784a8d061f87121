/** Where a result stands in the left and in the right ranking; rows from 0, null = not among those shown. */
export interface Movement {
  id: string;
  left: number | null;
  right: number | null;
  kind: 'same' | 'rises' | 'falls' | 'enters' | 'leaves';
}

/**
 * How every result moved from one ranking to the other: first those of the right one in its order, then those that
 * left.
 */
export function movements(left: readonly string[], right: readonly string[]): Movement[] {
  const before = new Map(left.map((id, row) => [id, row]));
  const after = new Set(right);
  const kept = right.map((id, row): Movement => {
    const was = before.get(id);
    if (was === undefined) return { id, left: null, right: row, kind: 'enters' };
    return { id, left: was, right: row, kind: was === row ? 'same' : was > row ? 'rises' : 'falls' };
  });
  const gone = left.flatMap((id, row): Movement[] =>
    after.has(id) ? [] : [{ id, left: row, right: null, kind: 'leaves' }],
  );
  return [...kept, ...gone];
}

/** "▲ 3", "▼ 2", "new": how far a result moved from one version to another (by their names), in a sign and in words. */
export function movedWords(
  { kind, left, right }: Movement,
  before: string,
  after: string,
): { sign: string; words: string } {
  const by = left === null || right === null ? 0 : Math.abs(left - right);
  const ranks = `${by} ${by === 1 ? 'rank' : 'ranks'}`;
  switch (kind) {
    case 'rises':
      return { sign: `▲ ${by}`, words: `up ${ranks}` };
    case 'falls':
      return { sign: `▼ ${by}`, words: `down ${ranks}` };
    case 'enters':
      return { sign: 'new', words: `not near the top of ${before}` };
    case 'leaves':
      return { sign: 'gone', words: `not near the top of ${after}` };
    case 'same':
      return { sign: '', words: 'same rank' };
  }
}
