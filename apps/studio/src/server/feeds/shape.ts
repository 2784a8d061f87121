/** Which fields the records of a source have, and of which types. */
import type { FieldChange, RecordJson } from '@yucca/contract';

/** Fields that are remembered: where names are data there is no end of them. */
const MOST_FIELDS = 1_000;

interface Told {
  records: number;
  /** The types of each field, and how many records have it. */
  fields: Record<string, { types: string[]; records: number }>;
}

interface Field {
  types: Set<string>;
  records: number;
}

export class Shape {
  records = 0;
  readonly #fields = new Map<string, Field>();

  static from(text: string | null): Shape {
    const shape = new Shape();
    if (text === null) return shape;
    const { records, fields } = JSON.parse(text) as Told;
    shape.records = records;
    for (const [name, { types, records: many }] of Object.entries(fields))
      shape.#fields.set(name, { types: new Set(types), records: many });
    return shape;
  }

  get text(): string {
    const fields = Object.fromEntries(
      [...this.#fields].map(([name, { types, records }]) => [name, { types: [...types].sort(), records }]),
    );
    return JSON.stringify({ records: this.records, fields } satisfies Told);
  }

  get fields(): string[] {
    return [...this.#fields.keys()];
  }

  add(record: RecordJson): void {
    this.records++;
    for (const [name, value] of Object.entries(record)) {
      // An empty field tells nothing of its type.
      if (value === null || value === '' || (Array.isArray(value) && value.length === 0)) continue;
      let field = this.#fields.get(name);
      if (field === undefined) {
        if (this.#fields.size === MOST_FIELDS) continue;
        this.#fields.set(name, (field = { types: new Set(), records: 0 }));
      }
      field.types.add(Array.isArray(value) ? 'list' : typeof value);
      field.records++;
    }
  }

  /** The types of a field in words; null when it is not there. */
  typesOf(name: string): string | null {
    const types = this.#fields.get(name)?.types;
    return types === undefined ? null : [...types].sort().join(' or ');
  }

  /** Whether a field has values of a type here that it had not before. */
  hasNewType(name: string, before: Shape): boolean {
    const known = before.#fields.get(name)?.types;
    return [...(this.#fields.get(name)?.types ?? [])].some((type) => !known?.has(type));
  }

  /** Whether most records have a field. */
  isCommon(name: string): boolean {
    return (this.#fields.get(name)?.records ?? 0) * 2 > this.records;
  }
}

/** What is done with a field: it is searched, is a facet, is shown … */
export interface FieldUse {
  path: string;
  use: string;
}

/** How fields differ from the run before, and what is done with those. */
export function changesOfShape(before: Shape, now: Shape, used: readonly FieldUse[]): FieldChange[] {
  const names = [...new Set([...before.fields, ...now.fields])];
  return names.flatMap((field) => {
    const [was, is] = [before.typesOf(field), now.typesOf(field)];
    if (was === is) return [];
    const uses = used.filter(({ path }) => path === field || path.startsWith(`${field}.`)).map(({ use }) => use);
    return [{ field, was, is, used: [...new Set(uses)] }];
  });
}
