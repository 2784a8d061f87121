import type { JsonType } from '@yucca/contract';
import { DistinctCounter } from './distinct.ts';
import { SHAPE_NAMES, SHAPES, type Shape } from './shapes.ts';
import { Spread } from './spread.ts';

const SAMPLES = 6;
const TEXTS_KEPT = 400;
const LONGEST_VALUE = 200;
const DAY_MS = 86_400_000;
/** Texts that are tried on every shape; past them, one in sixteen: the shapes only need a share. */
const SHAPED_ALL = 500;

/** Everything that is counted of one field while records go by. */
export class FieldFacts {
  readonly path: string;
  readonly types: Partial<Record<JsonType, number>> = {};
  records = 0;
  lists = 0;
  most = 0;
  readonly distinct = new DistinctCounter();
  readonly spread = new Spread();
  numbers = { count: 0, min: Infinity, max: -Infinity, sum: 0 };
  texts = { count: 0, min: Infinity, max: 0, letters: 0, words: 0 };
  dates: { from: string; to: string } | null = null;
  readonly samples = new Set<string | number | boolean>();
  readonly shapes: Record<Shape, number>;
  shaped = 0;
  /** The record that was seen last, and how many values it had here. */
  #record = -1;
  #inRecord = 0;
  /** The first texts, for whatever looks at them again. */
  readonly textExamples: string[] = [];

  constructor(path: string) {
    this.path = path;
    this.shapes = Object.fromEntries(SHAPE_NAMES.map((name) => [name, 0])) as Record<Shape, number>;
  }

  add(value: string | number | boolean | null, record: number, inList: boolean): void {
    const type = value === null ? 'null' : (typeof value as JsonType);
    this.types[type] = (this.types[type] ?? 0) + 1;
    if (value === null || value === '') return;
    if (this.#record !== record) {
      this.#record = record;
      this.records++;
      this.#inRecord = 0;
      if (inList) this.lists++;
    }
    this.#inRecord++;
    if (this.#inRecord > this.most) this.most = this.#inRecord;
    if (this.samples.size < SAMPLES)
      this.samples.add(typeof value === 'string' ? value.slice(0, LONGEST_VALUE) : value);
    this.distinct.add(typeof value === 'boolean' ? String(value) : value);
    if (typeof value === 'number') this.#addNumber(value);
    else if (typeof value === 'string') this.#addText(value);
  }

  #addNumber(value: number): void {
    const { numbers } = this;
    numbers.count++;
    numbers.sum += value;
    if (value < numbers.min) numbers.min = value;
    if (value > numbers.max) numbers.max = value;
    this.spread.add(value);
  }

  #addText(text: string): void {
    const { texts } = this;
    texts.count++;
    texts.letters += text.length;
    if (text.length < texts.min) texts.min = text.length;
    if (text.length > texts.max) texts.max = text.length;
    if (this.textExamples.length < TEXTS_KEPT) this.textExamples.push(text);
    if (this.shaped < SHAPED_ALL || texts.count % 16 === 0) {
      this.shaped++;
      texts.words += wordsIn(text);
      const head = text.length > 2_000 ? text.slice(0, 2_000) : text;
      for (const name of SHAPE_NAMES) if (SHAPES[name](head)) this.shapes[name]++;
    }
    if (text.length <= 32 && SHAPES.isoDate(text)) this.#addDate(text);
  }

  #addDate(text: string): void {
    const day = text.slice(0, 10);
    if (this.dates === null) this.dates = { from: day, to: day };
    else if (day < this.dates.from) this.dates.from = day;
    else if (day > this.dates.to) this.dates.to = day;
    if (this.numbers.count === 0) this.spread.add(Date.parse(day) / DAY_MS);
  }

  /** Words a text has on average, of the texts looked at. */
  get meanWords(): number {
    return this.shaped === 0 ? 0 : this.texts.words / this.shaped;
  }

  /** The share of texts that have a shape, 0 to 1. */
  share(shape: Shape): number {
    return this.shaped === 0 ? 0 : this.shapes[shape] / this.shaped;
  }

  count(type: JsonType): number {
    return this.types[type] ?? 0;
  }

  get values(): number {
    return this.count('string') + this.count('number') + this.count('boolean');
  }
}

function wordsIn(text: string): number {
  let words = 0;
  let inside = false;
  for (let i = 0; i < text.length; i++) {
    const space = text.charCodeAt(i) <= 32;
    if (!space && !inside) words++;
    inside = !space;
  }
  return words;
}
