import { ColumnBuilder } from '../columns/column-builder.ts';
import { MAX_COLUMNS } from '../columns/column.ts';
import { isCalledName } from '../text/called-name.ts';
import type { IndexPlan } from './plan.ts';

export const MAX_FIELDS = 60;
const MOST_PATHS = 2_000;
const MOST_UNSEARCHED = 100;

/** What is known of one dotted path. */
export interface FieldInfo {
  path: string;
  /** Number inside the postings, -1 = not searchable (yet). */
  number: number;
  /** Always searched; otherwise only its strings, when the plan says so. */
  planned: boolean;
  html: boolean;
  /** It is called a name: its numbers are names as well ("2012"), and searched like its texts. */
  isName: boolean;
  column: ColumnBuilder | null;
}

/** Whether a value is searched when a tuning names no fields. */
export const isSearchedUnasked = (isName: boolean, value: unknown): boolean =>
  typeof value === 'string' || (isName && typeof value === 'number');

/** One step of a path. Following steps needs no joining of names, which would cost more than the rest of the walk. */
export interface FieldNode {
  info: FieldInfo;
  children: Map<string, FieldNode>;
}

/**
 * Every path met in the records, as a tree of steps. A name that holds a dot leads to the same path as the nested one.
 */
export class FieldTree {
  readonly root: FieldNode;
  readonly searchFields: string[] = [];
  /** Text fields past the most that are searched; the first of very many. */
  readonly unsearched = new Set<string>();
  readonly #plan: IndexPlan;
  readonly #byPath = new Map<string, FieldInfo>();

  readonly #hasNoColumn: (path: string) => boolean;

  /** `hasNoColumn`: fields that have no column unless the plan names them. */
  constructor(plan: IndexPlan, hasNoColumn: (path: string) => boolean = () => false) {
    this.#plan = plan;
    this.#hasNoColumn = hasNoColumn;
    this.root = { info: this.#describe(''), children: new Map() };
    plan.searchFields.forEach((path) => this.numberOf(this.#known(path)));
    for (const path of [...plan.columns, ...(plan.ordering ?? [])]) this.#known(path);
  }

  get columns(): ColumnBuilder[] {
    return [...this.#byPath.values()].flatMap(({ column }) => (column === null ? [] : [column]));
  }

  /** Every path met or planned, whatever it holds; the first of very many. */
  get paths(): string[] {
    return [...this.#byPath.keys()].filter((path) => path !== '').slice(0, MOST_PATHS);
  }

  column(path: string): ColumnBuilder | null {
    return this.#byPath.get(path)?.column ?? null;
  }

  /** The node one step below; made when it is new. */
  child(node: FieldNode, name: string): FieldNode {
    let child = node.children.get(name);
    if (child === undefined) {
      const path = node === this.root ? name : `${node.info.path}.${name}`;
      child = { info: this.#known(path), children: new Map() };
      node.children.set(name, child);
    }
    return child;
  }

  /** The field's number in the postings, given out on first use; -1 when there are too many fields. */
  numberOf(info: FieldInfo): number {
    if (info.number === -1 && this.searchFields.length < MAX_FIELDS) {
      info.number = this.searchFields.push(info.path) - 1;
    }
    if (info.number === -1 && this.unsearched.size < MOST_UNSEARCHED) this.unsearched.add(info.path);
    return info.number;
  }

  #known(path: string): FieldInfo {
    let info = this.#byPath.get(path);
    if (info === undefined) this.#byPath.set(path, (info = this.#describe(path)));
    return info;
  }

  #describe(path: string): FieldInfo {
    const { searchFields, html, columns, labels, ordering = [] } = this.#plan;
    const isColumn = columns.includes(path);
    const isOrdering = ordering.includes(path);
    const labelled = labels.some(({ field }) => field === path);
    return {
      path,
      number: -1,
      planned: searchFields.includes(path),
      html: html.includes(path),
      isName: isCalledName(path),
      column:
        path !== '' && (isColumn || isOrdering || (this.#byPath.size < MAX_COLUMNS && !this.#hasNoColumn(path)))
          ? new ColumnBuilder(path, isColumn ? 'all' : isOrdering ? 'ordering' : 'small', isColumn && labelled)
          : null,
    };
  }
}
