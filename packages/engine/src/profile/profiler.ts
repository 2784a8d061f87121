import {
  LIMITS,
  readableName,
  type FieldProfile,
  type FieldRule,
  type FieldWarning,
  type Profile,
  type RecordJson,
} from '@yucca/contract';
import { readPosition } from '../geo/geo-point.ts';
import { proposePositions } from '../rules/propose-positions.ts';
import { FieldFacts } from './field-facts.ts';
import { proposeLanguages } from './languages.ts';
import { isCalledName, looksLikeNames, nameRank } from '../understand/naming.ts';
import { nameEvidence, proposeRoles, worthOfFacet } from './proposals.ts';
import { LOOKS, type Looked } from './warnings.ts';

/** Field paths profiled; records with more of them use values as names. */
const MOST_FIELDS = 500;
const TOP = 12;
const MOST_CHILDREN = 2_000;

/** A name in the records, below other names. */
interface FieldNode {
  path: string;
  facts: FieldFacts | null;
  children: Map<string, FieldNode>;
}

function childOf(node: FieldNode, name: string): FieldNode {
  let child = node.children.get(name);
  if (!child) {
    child = { path: node.path === '' ? name : `${node.path}.${name}`, facts: null, children: new Map() };
    // Where names are data there is no end of them; those are walked without being remembered.
    if (node.children.size < MOST_CHILDREN) node.children.set(name, child);
  }
  return child;
}

/** Looks at records one after the other and tells what stands in their fields. */
export class Profiler {
  readonly #keyField: string;
  readonly #units: ReadonlyMap<string, string>;
  readonly #facts: FieldFacts[] = [];
  readonly #root: FieldNode = { path: '', facts: null, children: new Map() };
  readonly #leftOut = new Set<string>();
  /** Fields whose value as a whole is a position. */
  readonly #geo = new Map<string, number>();
  #records = 0;

  /** `rules`: how its fields are read; the units of numbers become part of their labels. */
  constructor(keyField: string, rules: readonly FieldRule[] = []) {
    this.#keyField = keyField;
    this.#units = new Map(rules.flatMap(({ field, unit }) => (unit === undefined ? [] : [[field, unit]])));
  }

  add(record: RecordJson): void {
    const number = this.#records++;
    this.#walkObject(record, this.#root, number, false, LIMITS.pathLevels);
  }

  #walkObject(object: object, node: FieldNode, record: number, inList: boolean, left: number): void {
    for (const name in object) {
      if (Object.hasOwn(object, name))
        this.#walk((object as RecordJson)[name], childOf(node, name), record, inList, left - 1);
    }
  }

  #walk(value: unknown, node: FieldNode, record: number, inList: boolean, left: number): void {
    if (value === null || typeof value !== 'object') {
      this.#factsOf(node)?.add(value as string | number | boolean | null, record, inList);
      return;
    }
    if (left === 0) return;
    if (!inList && looksLikeGeoPoint(value)) this.#geo.set(node.path, (this.#geo.get(node.path) ?? 0) + 1);
    if (!Array.isArray(value)) return this.#walkObject(value, node, record, inList, left);
    for (const item of value) this.#walk(item, node, record, true, left - 1);
  }

  #factsOf(node: FieldNode): FieldFacts | null {
    if (node.facts !== null) return node.facts;
    if (this.#facts.length >= MOST_FIELDS) {
      if (this.#leftOut.size < 10_000) this.#leftOut.add(node.path);
      return null;
    }
    node.facts = new FieldFacts(node.path);
    this.#facts.push(node.facts);
    return node.facts;
  }

  /** Everything seen so far. */
  finish(tookMs = 0): Profile {
    const records = this.#records;
    const looked = this.#facts.map((facts): Looked => ({ facts, records, keyField: this.#keyField }));
    const fields = looked.map((one) => this.#present(one));
    chooseNames(looked, fields);
    for (const { path, proposal } of fields) {
      const unit = this.#units.get(path);
      if (unit !== undefined && proposal.facet !== null) proposal.facet.label = `${readableName(path)} (${unit})`;
    }
    const points = [...this.#geo].filter(
      ([path]) => ![...this.#geo.keys()].some((other) => path.startsWith(`${other}.`)),
    );
    for (const [path, count] of points) this.#addGeoPoint(fields, path, count);
    pairLabels(fields);
    proposeLanguages(looked, fields);
    pairPositions(fields);
    keepModest(looked, fields);
    const warnings: FieldWarning[] = [];
    if (this.#leftOut.size > 0) {
      warnings.push({
        code: 'names-are-data',
        detail: `More than ${MOST_FIELDS} different field names: values seem to be used as names. The fields beyond are not profiled.`,
        records,
        examples: [...this.#leftOut].slice(0, 4),
      });
    }
    return { records, fields, fieldsLeftOut: this.#leftOut.size, warnings, tookMs };
  }

  #present(looked: Looked): FieldProfile {
    const { facts, records } = looked;
    const { numbers, texts } = facts;
    const bins = facts.spread.bins();
    const top = facts.distinct.top(TOP);
    return {
      path: facts.path,
      types: facts.types,
      records: facts.records,
      missing: records - facts.records,
      lists: facts.lists,
      most: facts.most,
      distinct: facts.distinct.size,
      distinctExact: facts.distinct.exact,
      numbers: numbers.count === 0 ? null : { min: numbers.min, max: numbers.max, mean: numbers.sum / numbers.count },
      length:
        texts.count === 0
          ? null
          : { min: texts.min, max: texts.max, mean: texts.letters / texts.count, words: facts.meanWords },
      dates: facts.dates,
      samples: [...facts.samples],
      top: (top[0]?.count ?? 0) > 1 ? top.map(({ value, count }) => ({ value: value.slice(0, 120), count })) : [],
      spread: bins && { ...bins, unit: numbers.count > 0 ? 'number' : 'day' },
      warnings: LOOKS.flatMap((look) => look(looked) ?? []),
      proposal: proposeRoles(looked),
    };
  }

  /** A position is a field of its own, although its numbers stand a level below. */
  #addGeoPoint(fields: FieldProfile[], path: string, count: number): void {
    if (count < this.#records * 0.2) return;
    const reason = `a position in ${count.toLocaleString('en')} records: “near me” and distance`;
    const known = fields.find((field) => field.path === path);
    if (known) {
      known.proposal = { ...known.proposal, facet: null, sort: null, geo: { reason } };
      return;
    }
    // The numbers inside a position mean nothing by themselves.
    const first = fields.findIndex((field) => field.path.startsWith(`${path}.`));
    const rest = fields.filter((field) => !field.path.startsWith(`${path}.`));
    rest.splice(first === -1 ? rest.length : first, 0, placeField(path, count, this.#records, reason));
    fields.splice(0, fields.length, ...rest);
  }
}

/** Pairs of whole numbers are months or sizes more often than points. */
function looksLikeGeoPoint(value: object): boolean {
  if (Array.isArray(value) && (value.length !== 2 || value.every((part) => Number.isInteger(part)))) return false;
  return readPosition(value) !== null;
}

function placeField(path: string, count: number, records: number, reason: string): FieldProfile {
  const none = { search: null, facet: null, sort: null, signal: null, snippet: null, html: false, language: null };
  return {
    path,
    types: { object: count },
    records: count,
    missing: records - count,
    lists: 0,
    most: 1,
    distinct: 0,
    distinctExact: false,
    numbers: null,
    length: null,
    dates: null,
    samples: [],
    top: [],
    spread: null,
    warnings: [],
    proposal: { ...none, show: { shown: true, reason: '' }, geo: { reason } },
  };
}

/** What names the records weighs most: every field that is called so, or the one whose values look most like names. */
function chooseNames(looked: readonly Looked[], fields: readonly FieldProfile[]): void {
  const evidence = looked.map(nameEvidence);
  const ranked = evidence.flatMap((one, i) => {
    const rank = nameRank(one);
    return rank === null ? [] : [{ one, field: fields[i]!, rank, isCalled: isCalledName(one.path) }];
  });
  const called = ranked.filter(({ one, isCalled }) => isCalled && one.different >= 0.3);
  for (const { field } of called) field.proposal.search = { weight: NAME_WEIGHT, reason: 'it names the record' };
  if (called.length > 0) return;
  const shown = ranked.filter(({ one }) => looksLikeNames(one));
  if (shown.length === 0) return;
  const { field } = shown.reduce((best, one) => (one.rank > best.rank ? one : best));
  field.proposal.search = { weight: NAME_WEIGHT, reason: 'its values look like the names of the records' };
}
const NAME_WEIGHT = 10;

/** Facets and sorts that are proposed at once; more of them hide each other. */
const MOST_FACETS = 8;
const MOST_SORTS = 6;

/** Of the facets the most useful are proposed, of the sorts the first; the others are there for whoever looks. */
function keepModest(looked: readonly Looked[], fields: readonly FieldProfile[]): void {
  const byPath = new Map(looked.map((one) => [one.facts.path, one]));
  const worthOf = ({ path, proposal }: FieldProfile): number => {
    const one = byPath.get(path);
    return one === undefined || proposal.facet === null ? 0 : worthOfFacet(one, proposal.facet.kind);
  };
  fields
    .filter(({ proposal }) => proposal.facet !== null)
    .map((field) => ({ field, worth: worthOf(field) }))
    .sort((a, b) => b.worth - a.worth)
    .slice(MOST_FACETS)
    .forEach(({ field }) => (field.proposal.facet!.further = true));
  fields
    .filter(({ proposal }) => proposal.sort !== null)
    .slice(MOST_SORTS)
    .forEach(({ proposal }) => (proposal.sort!.further = true));
}

/** `suppliers.id` beside `suppliers.name`: the ids are counted, the names are shown. */
function pairLabels(fields: FieldProfile[]): void {
  for (const field of fields) {
    const parent = /^(.+)\.(id|key|code|slug)$/i.exec(field.path)?.[1];
    if (parent === undefined) continue;
    const label = fields.find(({ path }) => new RegExp(`^${escape(parent)}\\.(name|label|title)$`, 'i').test(path));
    if (label === undefined) continue;
    field.proposal.search = null;
    if (field.proposal.facet?.kind !== 'values') continue;
    field.proposal.facet = { ...field.proposal.facet, labelField: label.path, reason: `ids, shown by ${label.path}` };
    label.proposal.facet = null;
  }
}

/** A latitude beside a longitude: a rule makes a position of them. */
function pairPositions(fields: FieldProfile[]): void {
  if (fields.some(({ proposal }) => proposal.geo !== null)) return;
  // The least and the most of a field stand for all of its values.
  const ends = (of: (numbers: NonNullable<FieldProfile['numbers']>) => number): RecordJson =>
    Object.fromEntries(fields.map(({ path, numbers, samples }) => [path, numbers === null ? samples[0] : of(numbers)]));
  const rows = [ends(({ min }) => min), ends(({ max }) => max)];
  const single = fields.filter(({ lists }) => lists === 0).map(({ path }) => path);
  for (const { rule, reason } of proposePositions(rows, single)) {
    if (rule.from === undefined) continue;
    const field = fields.find(({ path }) => path === rule.from![0])!;
    field.warnings.push({
      code: 'looks-like-coordinates',
      detail: `Half of a position: ${reason} need one field with both.`,
      records: field.records,
      examples: [],
      repair: rule,
    });
  }
}

const escape = (text: string): string => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
