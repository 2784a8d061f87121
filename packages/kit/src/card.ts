import type { Card, Range, RecordJson, SearchResult } from '@yucca/contract';
import { PICTURE_WIDTHS, leavesAt, pointerNames, readableName, valueAtPointer } from '@yucca/contract';
import { excerpt } from './marks.ts';

/** A text with the parts that matched. */
export interface ShownText {
  text: string;
  ranges: Range[];
}

/** What a result card shows of a result. */
export interface ShownHit {
  id: string;
  title: ShownText;
  picture: string | null;
  /** The picture in smaller widths, as a `srcset` has them; undefined where its server makes none. */
  smaller?: string | undefined;
  /** The picture in the least of them, or as it is. */
  thumbnail?: string | null;
  detail: ShownText | null;
  second: ShownText | null;
  /** With the heading it stands under, where it is one of several parts of a long text. */
  text: (ShownText & { heading?: string }) | null;
  number: { label: string; value: number; former?: number | undefined } | null;
  /** A match in a field the card does not show, so that nobody wonders why the result is here. */
  elsewhere: (ShownText & { label: string }) | null;
}

/** The strings and numbers under a dotted path, by their JSON Pointers. */
export function leaves(record: RecordJson, path: string | null | undefined): Map<string, string | number> {
  const found = new Map<string, string | number>();
  if (path)
    leavesAt(record, path, (value, pointer) => {
      if (typeof value !== 'boolean') found.set(pointer, value);
    });
  return found;
}

const firstOf = (record: RecordJson, path: string | null | undefined): string | number | undefined =>
  leaves(record, path).values().next().value;

/** What stands under a path: of a list, the text in which something was found before the first one. */
export function textAt(
  { record, marks, snippets }: SearchResult,
  path: string | null | undefined,
  length: number,
): (ShownText & { pointer: string }) | null {
  const here = leaves(record, path);
  const pointers = [...here.keys()];
  const pointer =
    pointers.find((one) => snippets[one]?.[0]?.ranges.length) ?? pointers.find((one) => marks[one]) ?? pointers[0];
  if (pointer === undefined) return null;
  const [snippet] = snippets[pointer] ?? [];
  if (snippet) return { pointer, ...snippet };
  const text = String(here.get(pointer));
  return text === '' ? null : { pointer, ...excerpt(text, marks[pointer] ?? [], length) };
}

/** The heading beside a text, when the text is a part of a list: `sections/2/heading` for `sections/2/text`. */
function headingOf(record: RecordJson, pointer: string): string | undefined {
  const part = /^(.*\/\d+)\/[^/]+$/.exec(pointer)?.[1];
  if (part === undefined) return undefined;
  const headings = ['heading', 'title'].map((name) => `${part}/${name}`).filter((other) => other !== pointer);
  return headings.map((other) => stringAt(record, other)).find((heading) => heading !== '');
}

/** The text a JSON Pointer leads to. */
const stringAt = (record: RecordJson, pointer: string): string => String(valueAtPointer(record, pointer) ?? '');

/** Pictures that lie in the folder of a Yucca server, which makes smaller ones; a `srcset` has no room for the rest. */
const IN_FOLDER = /^\/files\/[^?#,\s]+$/;

/**
 * Lays a result out on a card. A record without a title field is called by its key. `picturesFrom` goes before
 * addresses of pictures that begin with a slash: the server they lie on, when it is not the page's own.
 */
export function shownHit(result: SearchResult, card: Card, picturesFrom = ''): ShownHit {
  const title = textAt(result, card.title, 140) ?? { text: result.id, ranges: [], pointer: '' };
  const detail = textAt(result, card.detail, 90);
  const second = textAt(result, card.second, 90);
  const text = textAt(result, card.text, 190);
  const heading = text === null ? undefined : headingOf(result.record, text.pointer);
  const where = firstOf(result.record, card.picture);
  const picture = typeof where === 'string' ? (/^\/(?!\/)/.test(where) ? picturesFrom : '') + where : null;
  const small = IN_FOLDER.test(`${where}`);
  const number = firstOf(result.record, card.number);
  const former = firstOf(result.record, card.former);
  const shown = new Set([title.pointer, detail?.pointer, second?.pointer, text?.ranges.length ? text.pointer : '']);
  const visible = [title, detail, second, text].some((part) => part?.ranges.length);
  const other = visible ? undefined : Object.keys(result.marks).find((pointer) => !shown.has(pointer));
  return {
    id: result.id,
    title,
    picture,
    thumbnail: small ? `${picture}?width=${PICTURE_WIDTHS[0]}` : picture,
    smaller: small ? PICTURE_WIDTHS.map((w) => `${picture}?width=${w} ${w}w`).join() : undefined,
    detail,
    second,
    text: text && { ...text, ...(heading && { heading }) },
    number:
      typeof number === 'number' && card.number !== null
        ? {
            label: readableName(card.number),
            value: number,
            former: typeof former === 'number' && former > number ? former : undefined,
          }
        : null,
    elsewhere:
      other === undefined
        ? null
        : {
            label: readableName(
              pointerNames(other)
                .filter((name) => !/^\d+$/.test(name))
                .join(' '),
            ),
            ...excerpt(stringAt(result.record, other), result.marks[other] ?? [], 110),
          },
  };
}
