import type { Card, Range, RecordJson, SearchResult } from '@yucca/contract';
import { readableName } from '@yucca/contract';
import { excerpt } from './marks.ts';

export interface ShownText {
  text: string;
  ranges: Range[];
}

/** What a result card shows of a result. */
export interface ShownHit {
  id: string;
  title: ShownText;
  picture: string | null;
  detail: ShownText | null;
  /** With the heading it stands under, where it is one of several parts of a long text. */
  text: (ShownText & { heading?: string }) | null;
  number: { label: string; value: number } | null;
  /** A match in a field the card does not show, so that nobody wonders why the result is here. */
  elsewhere: (ShownText & { label: string }) | null;
}

/** The first string or number under a dotted path, and its JSON Pointer. */
function firstAt(record: RecordJson, path: string | null): { value: string | number; pointer: string } | null {
  if (path === null) return null;
  let value: unknown = record;
  let pointer = '';
  const enter = (): void => {
    if (Array.isArray(value)) {
      value = value[0];
      pointer += '/0';
    }
  };
  for (const name of path.split('.')) {
    enter();
    if (value === null || typeof value !== 'object' || !Object.hasOwn(value, name)) return null;
    value = (value as RecordJson)[name];
    pointer += `/${name.replaceAll('~', '~0').replaceAll('/', '~1')}`;
  }
  enter();
  return typeof value === 'string' || typeof value === 'number' ? { value, pointer } : null;
}

/** Patterns by path: a page lays out many results with the same few fields. */
const patterns = new Map<string, RegExp>();

/** A dotted path as a pattern of the JSON Pointers below it: lists may stand anywhere between its names. */
function pointersOf(path: string): RegExp {
  let pattern = patterns.get(path);
  if (!pattern) {
    const names = path.split('.').map((name) => name.replaceAll('~', '~0').replaceAll('/', '~1'));
    const escaped = names.map((name) => name.replace(/[.*+?^${}()|[\]\\]/g, '\\$&'));
    pattern = new RegExp(`^/${escaped.join('(?:/\\d+)*/')}(?:/\\d+)*$`);
    patterns.set(path, pattern);
  }
  return pattern;
}

/** What stands under a path: of a list, the text in which something was found before the first one. */
function textAt(
  { record, marks, snippets }: SearchResult,
  path: string | null,
  length: number,
): (ShownText & { pointer: string }) | null {
  if (path === null) return null;
  const pattern = pointersOf(path);
  const within = (pointer: string): boolean => pattern.test(pointer);
  const found = Object.keys(snippets).find((pointer) => within(pointer) && snippets[pointer]![0]?.ranges.length);
  const marked = found ?? Object.keys(marks).find(within);
  const first = firstAt(record, path);
  const pointer = marked ?? first?.pointer;
  if (pointer === undefined) return null;
  const [snippet] = snippets[pointer] ?? [];
  if (snippet) return { pointer, ...snippet };
  const text = marked === undefined ? String(first!.value) : stringAt(record, marked);
  return text === '' ? null : { pointer, ...excerpt(text, marks[pointer] ?? [], length) };
}

/** The heading beside a text, when the text is a part of a list: `sections/2/heading` for `sections/2/text`. */
function headingOf(record: RecordJson, pointer: string): string | undefined {
  const part = /^(.*\/\d+)\/[^/]+$/.exec(pointer)?.[1];
  if (part === undefined) return undefined;
  const headings = ['heading', 'title'].map((name) => `${part}/${name}`).filter((other) => other !== pointer);
  return headings.map((other) => stringAt(record, other)).find((heading) => heading !== '');
}

/** The string a JSON Pointer leads to. */
function stringAt(record: RecordJson, pointer: string): string {
  const tokens = pointer
    .slice(1)
    .split('/')
    .map((token) => token.replaceAll('~1', '/').replaceAll('~0', '~'));
  return String(tokens.reduce<unknown>((value, token) => (value as RecordJson | undefined)?.[token], record) ?? '');
}

/**
 * Lays a result out on a card. A record without a title field is called by its key. `picturesFrom` goes before addresses
 * of pictures that begin with a slash: the server they lie on, when it is not the page's own.
 */
export function shownHit(result: SearchResult, card: Card, picturesFrom = ''): ShownHit {
  const title = textAt(result, card.title, 140) ?? { text: result.id, ranges: [], pointer: '' };
  const detail = textAt(result, card.detail, 90);
  const text = textAt(result, card.text, 190);
  const heading = text === null ? undefined : headingOf(result.record, text.pointer);
  const picture = firstAt(result.record, card.picture)?.value;
  const number = firstAt(result.record, card.number)?.value;
  const shown = new Set([title.pointer, detail?.pointer, text?.ranges.length ? text.pointer : '']);
  const visible = title.ranges.length + (detail?.ranges.length ?? 0) + (text?.ranges.length ?? 0) > 0;
  const other = visible ? undefined : Object.keys(result.marks).find((pointer) => !shown.has(pointer));
  return {
    id: result.id,
    title,
    picture: typeof picture === 'string' ? (/^\/(?!\/)/.test(picture) ? picturesFrom + picture : picture) : null,
    detail,
    text: text && { ...text, ...(heading && { heading }) },
    number:
      typeof number === 'number' && card.number !== null ? { label: readableName(card.number), value: number } : null,
    elsewhere:
      other === undefined
        ? null
        : {
            label: readableName(
              other
                .split('/')
                .filter((token) => !/^\d+$/.test(token))
                .join(' '),
            ),
            ...excerpt(stringAt(result.record, other), result.marks[other] ?? [], 110),
          },
  };
}
