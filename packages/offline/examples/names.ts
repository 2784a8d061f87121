/** The examples by the export they are of. */
import type { ComponentType } from 'react';
import type { EMPTY_QUERY } from '@yucca/kit';
import * as facets from './facets';
import * as fields from './fields';
import * as functions from './functions';
import * as results from './results';
import type { Shop } from './shop';
import * as sources from './sources';

/** Begins with a query of its own where an example shows what comes of it. */
export const STARTS: Readonly<Record<string, Partial<typeof EMPTY_QUERY>>> = {
  AppliedChoices: { select: { colour: ['green'], price: { max: 20 } } },
  Marked: { q: 'ros' },
  NothingFound: { q: 'ferns in space' },
  ResultCount: { q: 'lavendr' },
  Shelves: { q: 'fern' },
};

const byName = <T>(module: Readonly<Record<string, T>>): [string, T][] =>
  Object.entries(module).map(([name, example]) => [name.replace(/Example$/, ''), example]);

/** Parts of a page, drawn. */
export const PARTS: ReadonlyMap<string, ComponentType<Shop>> = new Map([
  ...byName<ComponentType<Shop>>(facets),
  ...byName<ComponentType<Shop>>(fields),
  ...byName<ComponentType<Shop>>(results),
]);

/** Functions, and what comes of them. */
export const VALUES: ReadonlyMap<string, () => unknown> = new Map([
  ...byName<() => unknown>(functions),
  ...byName<() => unknown>(sources),
]);
