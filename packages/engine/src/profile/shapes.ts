import { beginsAsName, isCode } from '../understand/naming.ts';
import { readDate } from '../rules/dates.ts';

/** What texts can look like, told value by value. A new one is a line here. */
export const SHAPES = {
  url: (text: string) => /^([a-z][a-z0-9+.-]*:\/\/|\/)\S+$/i.test(text) && text.length > 3,
  picture: (text: string) => /^(https?:\/\/|\/)\S*\.(svg|png|jpe?g|gif|webp|avif)([?#]\S*)?$|^data:image\//i.test(text),
  /** Long runs of letters and digits that no person wrote: checksums, tokens, UUIDs. */
  hash: (text: string) =>
    /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/i.test(text) ||
    (/^[0-9a-f]{12,}$/i.test(text) && /\d/.test(text) && /[a-f]/i.test(text)) ||
    (/^[A-Za-z0-9+/_-]{20,}={0,2}$/.test(text) && /\d/.test(text) && /[a-z]/.test(text) && /[A-Z]/.test(text)),
  html: (text: string) => /<\/?[a-z][a-z0-9]*(\s[^<>]*)?>/i.test(text),
  isoDate: (text: string) => /^\d{4}-\d{2}-\d{2}([T ]\d{2}:\d{2}\S*)?$/.test(text),
  date: (text: string) => /\d/.test(text) && text.length <= 30 && readDate(text) !== undefined,
  number: (text: string) => /^[-+]?(0|[1-9]\d{0,14})([.,]\d+)?$/.test(text.trim()),
  boolean: (text: string) => /^(true|false|yes|no)$/i.test(text),
  json: (text: string) => /^\s*(\{.*\}|\[.*\])\s*$/s.test(text),
  separated: (text: string) => /[|;]/.test(text) || /\S, ?\S/.test(text),
  /** Begins as a name does. */
  name: beginsAsName,
  code: isCode,
  oddSpaces: (text: string) => text !== text.trim() || /\s{2,}/.test(text),
  /** `A > B > C` and the like. */
  levels: (text: string) => /\S (>|›|»|\/|::) \S/.test(text),
} as const;

export type Shape = keyof typeof SHAPES;

export const SHAPE_NAMES = Object.keys(SHAPES) as Shape[];
