import type { RecordJson } from '@yucca/contract';

/** More names than this in one object are data: they are written as an index signature. */
const MOST_NAMES = 100;

/** What has been seen in one place of the records. */
interface Shape {
  readonly plain: Set<'string' | 'number' | 'boolean' | 'null'>;
  /** What stands in its lists; null where there was no list, empty where every list was. */
  items: Shape | null;
  objects: number;
  readonly names: Map<string, { shape: Shape; count: number }>;
  /** What stands under its names, once there were too many of them. */
  under: Shape | null;
}

/** Whether a text can be a name in TypeScript (ECMA-262, IdentifierName). */
export const isIdentifier = (text: string): boolean => /^[\p{ID_Start}$_][\p{ID_Continue}$]*$/u.test(text);

const emptyShape = (): Shape => ({ plain: new Set(), items: null, objects: 0, names: new Map(), under: null });

/**
 * Looks at records one after the other and writes the TypeScript type that fits all of them: which fields each of them
 * has, which only some have, and what stands in them.
 */
export class RecordType {
  readonly #shape = emptyShape();

  add(record: RecordJson): void {
    see(this.#shape, record);
  }

  /**
   * The type as a declaration. It is an alias, not an interface: only aliases are assignable to records of any kind.
   *
   * @param name of the type; a TypeScript identifier
   */
  declare(name: string): string {
    const fields = this.#shape.objects === 0 ? 'Record<string, unknown>' : objectText(this.#shape, '');
    return `export type ${name} = ${fields};\n`;
  }
}

function see(shape: Shape, value: unknown): void {
  if (Array.isArray(value)) {
    shape.items ??= emptyShape();
    for (const item of value) see(shape.items, item);
  } else if (value !== null && typeof value === 'object') {
    shape.objects++;
    for (const [name, below] of Object.entries(value)) seeUnder(shape, name, below);
  } else shape.plain.add(value === null ? 'null' : (typeof value as 'string' | 'number' | 'boolean'));
}

function seeUnder(shape: Shape, name: string, value: unknown): void {
  if (shape.under !== null) return see(shape.under, value);
  let known = shape.names.get(name);
  if (!known) shape.names.set(name, (known = { shape: emptyShape(), count: 0 }));
  known.count++;
  see(known.shape, value);
  if (shape.names.size <= MOST_NAMES) return;
  shape.under = emptyShape();
  for (const one of shape.names.values()) merge(shape.under, one.shape);
  shape.names.clear();
}

function merge(into: Shape, from: Shape): void {
  for (const one of from.plain) into.plain.add(one);
  if (from.items !== null) merge((into.items ??= emptyShape()), from.items);
  into.objects += from.objects;
  if (from.under !== null) merge((into.under ??= emptyShape()), from.under);
  for (const [name, { shape, count }] of from.names) {
    const known = into.names.get(name) ?? { shape: emptyShape(), count: 0 };
    known.count += count;
    merge(known.shape, shape);
    into.names.set(name, known);
  }
}

function typeText(shape: Shape, indent: string): string {
  const has = (type: 'string' | 'number' | 'boolean' | 'null'): string[] => (shape.plain.has(type) ? [type] : []);
  const parts = [...has('string'), ...has('number'), ...has('boolean')];
  if (shape.objects > 0) parts.push(objectText(shape, indent));
  if (shape.items !== null) parts.push(listText(shape.items, indent));
  parts.push(...has('null'));
  return parts.length === 0 ? 'unknown' : parts.join(' | ');
}

function listText(items: Shape, indent: string): string {
  const text = typeText(items, indent);
  const kinds = items.plain.size + (items.objects > 0 ? 1 : 0) + (items.items === null ? 0 : 1);
  return kinds > 1 ? `(${text})[]` : `${text}[]`;
}

function objectText({ names, under, objects }: Shape, indent: string): string {
  const inner = `${indent}  `;
  const lines = [...names].map(([name, { shape, count }]) => {
    const written = isIdentifier(name) ? name : JSON.stringify(name);
    const isOptional = count < objects;
    // Where a record lacks it, what every object has of that name is there: nothing is known of it.
    const text = isOptional && name in Object.prototype ? 'unknown' : typeText(shape, inner);
    return `${inner}${written}${isOptional ? '?' : ''}: ${text};\n`;
  });
  if (under !== null) lines.push(`${inner}[name: string]: ${typeText(under, inner)};\n`);
  return lines.length === 0 ? 'Record<string, never>' : `{\n${lines.join('')}${indent}}`;
}
