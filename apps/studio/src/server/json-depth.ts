const QUOTE = 0x22;
const BACKSLASH = 0x5c;

/**
 * How many levels of lists and objects a JSON text opens, or a number above `most` as soon as there are more: told
 * before it is read, because what is read can be walked by functions that call themselves. What is no JSON has some
 * depth too.
 */
export function jsonDepth(text: string, most: number): number {
  let depth = 0;
  let deepest = 0;
  for (let at = 0; at < text.length; at++) {
    const code = text.charCodeAt(at);
    if (code === QUOTE) {
      at = endOfString(text, at + 1);
    } else if (code === 0x5b || code === 0x7b) {
      if (++depth > deepest && (deepest = depth) > most) return deepest;
    } else if (code === 0x5d || code === 0x7d) {
      depth--;
    }
  }
  return deepest;
}

/** Where a string ends; searching for its quote is many times as fast as going through its letters. */
function endOfString(text: string, from: number): number {
  for (let at = text.indexOf('"', from); at !== -1; at = text.indexOf('"', at + 1)) {
    let backslashes = 0;
    while (text.charCodeAt(at - 1 - backslashes) === BACKSLASH) backslashes++;
    if (backslashes % 2 === 0) return at;
  }
  return text.length;
}
