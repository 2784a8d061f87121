/** One position of a pattern's piece: a UTF-16 unit, or any one character. */
const ANY_CHARACTER = -1;

/** What stands between two `%` of a pattern. */
interface Piece {
  /** As text, when it holds no `_`: then the machine's own search finds it. */
  text: string | null;
  units: number[];
  characters: number;
}

/**
 * Compiles a LIKE pattern: `%` is any characters, `_` is one; a backslash before either means itself. The piece before
 * the first `%` has to begin the text and the one after the last to end it; those between are looked for one after the
 * other, each at the first position it fits, which is always as good as a later one. So nothing is tried twice.
 */
export function likePattern(pattern: string): (value: string) => boolean {
  const pieces = readPieces(pattern);
  const first = pieces[0]!;
  if (pieces.length === 1) return (value) => endOf(first, value, 0) === value.length;
  const last = pieces[pieces.length - 1]!;
  const between = pieces.slice(1, -1);
  return (value) => {
    let at = endOf(first, value, 0);
    if (at === -1) return false;
    const lastAt = startOfLast(last, value);
    if (lastAt < at || endOf(last, value, lastAt) !== value.length) return false;
    for (const piece of between) {
      at = endOfNext(piece, value, at);
      if (at === -1 || at > lastAt) return false;
    }
    return true;
  };
}

/**
 * What every text begins with that a pattern fits: all before its first `%` or `_`; and whether it fits all that do, as
 * `part%`.
 */
export function beginningOf(pattern: string): { beginning: string; isBeginning: boolean } {
  const [first, ...others] = readPieces(pattern);
  const any = first!.units.indexOf(ANY_CHARACTER);
  return {
    beginning: String.fromCharCode(...(any === -1 ? first!.units : first!.units.slice(0, any))),
    isBeginning: any === -1 && others.length === 1 && others[0]!.units.length === 0,
  };
}

function readPieces(pattern: string): Piece[] {
  const pieces: Piece[] = [];
  let text = '';
  let units: number[] = [];
  let characters = 0;
  const end = (): void => {
    pieces.push({ text: units.includes(ANY_CHARACTER) ? null : text, units, characters });
    [text, units, characters] = ['', [], 0];
  };
  const letters = [...pattern];
  for (let i = 0; i < letters.length; i++) {
    const isEscape = letters[i] === '\\' && i + 1 < letters.length;
    if (isEscape) i++;
    const letter = letters[i]!;
    if (letter === '%' && !isEscape) {
      end();
      continue;
    }
    characters++;
    if (letter === '_' && !isEscape) {
      units.push(ANY_CHARACTER);
    } else {
      text += letter;
      for (let unit = 0; unit < letter.length; unit++) units.push(letter.charCodeAt(unit));
    }
  }
  end();
  return pieces;
}

const isHigh = (unit: number): boolean => (unit & 0xfc00) === 0xd800;
const isLow = (unit: number): boolean => (unit & 0xfc00) === 0xdc00;

/** How many units the character at a position has. */
const unitsAt = (value: string, at: number): number =>
  isHigh(value.charCodeAt(at)) && isLow(value.charCodeAt(at + 1)) ? 2 : 1;

/** Where a piece ends that begins at a position; -1 when it does not stand there. */
function endOf({ text, units }: Piece, value: string, at: number): number {
  if (text !== null) return value.startsWith(text, at) ? at + text.length : -1;
  for (const unit of units) {
    if (at >= value.length) return -1;
    if (unit === ANY_CHARACTER) at += unitsAt(value, at);
    else if (value.charCodeAt(at) === unit) at++;
    else return -1;
  }
  return at;
}

/** Where a piece ends that begins at a position or after it. */
function endOfNext(piece: Piece, value: string, from: number): number {
  if (piece.text !== null) {
    const at = value.indexOf(piece.text, from);
    return at === -1 ? -1 : at + piece.text.length;
  }
  for (let at = from; at < value.length; at += unitsAt(value, at)) {
    const end = endOf(piece, value, at);
    if (end !== -1) return end;
  }
  return -1;
}

/** Where the last piece has to begin, counted from the end; -1 when the text is too short. */
function startOfLast({ text, characters }: Piece, value: string): number {
  if (text !== null) return value.length - text.length;
  let at = value.length;
  for (let left = characters; left > 0; left--) {
    if (at === 0) return -1;
    at -= at > 1 && isLow(value.charCodeAt(at - 1)) && isHigh(value.charCodeAt(at - 2)) ? 2 : 1;
  }
  return at;
}
