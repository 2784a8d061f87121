import { analyse } from 'chardet';

/** What texts are written in unless they say or show otherwise. */
export const UTF_8 = 'utf-8';
/** What a text is read as that is no UTF-8 and shows nothing else: what most programs of Windows write. */
const LEGACY = 'windows-1252';

/** Charsets that can be chosen by hand, by their names in the Encoding standard (WHATWG). */
export const CHARSETS = [
  UTF_8,
  'utf-16le',
  'utf-16be',
  'windows-1250',
  'windows-1251',
  LEGACY,
  'shift_jis',
  'euc-jp',
  'gb18030',
  'big5',
  'euc-kr',
  'koi8-r',
] as const;

/** How sure the detector has to be (0 to 100), and by how much more than of Latin letters. */
const SURE = 30;
const MORE_THAN_LATIN = 10;
/** A share of bytes that are 0 at every other place: letters of two bytes, most of them Latin. */
const ZEROS = 0.3;

/** The name of a charset in the Encoding standard; null for one that nothing here can read. */
export function knownCharset(name: string): string | null {
  try {
    return new TextDecoder(name.trim()).encoding;
  } catch (error) {
    if (error instanceof RangeError || (error as Error).name === 'RangeError') return null;
    throw error;
  }
}

/**
 * What a text is written in, from its beginning: a byte order mark, `said` by its sender, UTF-16 by its zeros, what
 * XML and HTML say of themselves, UTF-8 when it is valid so, and else by how often the letters of languages come.
 */
export function charsetOf(head: Uint8Array, said: string | null = null): string {
  if (head[0] === 0xef && head[1] === 0xbb && head[2] === 0xbf) return UTF_8;
  if (head[0] === 0xff && head[1] === 0xfe) return 'utf-16le';
  if (head[0] === 0xfe && head[1] === 0xff) return 'utf-16be';
  if (said !== null) return said;
  const zerosAt = (odd: 0 | 1): number => {
    let zeros = 0;
    for (let at: number = odd; at < head.length; at += 2) if (head[at] === 0) zeros++;
    return zeros / Math.max(1, head.length / 2);
  };
  if (zerosAt(1) > ZEROS) return 'utf-16le';
  if (zerosAt(0) > ZEROS) return 'utf-16be';
  const own = charsetInside(head);
  if (own !== null && (own !== UTF_8 || isUtf8(head))) return own;
  if (isUtf8(head)) return UTF_8;
  const found = analyse(head).flatMap(({ name, confidence }) => {
    const charset = knownCharset(name);
    return charset === null || charset === UTF_8 ? [] : [{ charset, confidence }];
  });
  const latin = Math.max(0, ...found.filter(({ charset }) => charset === LEGACY).map(({ confidence }) => confidence));
  const best = found.find(({ charset }) => charset !== LEGACY && !charset.startsWith('utf-16'));
  return best && best.confidence >= SURE && best.confidence >= latin + MORE_THAN_LATIN ? best.charset : LEGACY;
}

/** Where a text may say what it is written in, in letters that all such charsets share. */
const SAYS_SO = [
  // XML 1.0, section 4.3.3.
  { within: 200, pattern: /^\s*<\?xml\b[^>]{0,150}\bencoding\s*=\s*["']([\w.:-]{1,40})["']/ },
  // HTML, section 13.2.3.2.
  { within: 1_024, pattern: /<meta\b[^>]{0,200}\bcharset\s*=\s*["']?([\w.:-]{1,40})/i },
];

/** The charset that an XML declaration or a meta element names; null for none, and for one nobody knows. */
function charsetInside(head: Uint8Array): string | null {
  if (head.find((byte) => byte > 32) !== 60) return null;
  const start = new TextDecoder('latin1').decode(head.subarray(0, 1_024));
  for (const { within, pattern } of SAYS_SO) {
    const name = pattern.exec(start.slice(0, within))?.[1];
    if (name !== undefined) return knownCharset(name);
  }
  return null;
}

/** Whether bytes are UTF-8, but for a character that the end cuts. */
function isUtf8(bytes: Uint8Array): boolean {
  try {
    new TextDecoder(UTF_8, { fatal: true }).decode(bytes, { stream: true });
    return true;
  } catch (error) {
    if ((error as Error).name === 'TypeError') return false;
    throw error;
  }
}

/** A beginning of a text as UTF-8, whatever it is written in. */
export function asUtf8(head: Uint8Array, charset: string): Uint8Array {
  return charset === UTF_8 ? head : new TextEncoder().encode(new TextDecoder(charset).decode(head, { stream: true }));
}
