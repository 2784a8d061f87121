/**
 * Schemas that know the type of what they describe: an answer is written down once, and its TypeScript type is read
 * from its JSON Schema (2020-12). Requests are literal schemas read by `json-schema-to-ts`, because they are compiled
 * for validation and carry limits; returns need a few words only, and those are here.
 */

/** Only types have it. */
declare const described: unique symbol;

/** A JSON Schema as a plain document. */
export type Schema = { readonly [keyword: string]: unknown };

/** A JSON Schema of values of type `T`. */
export type SchemaOf<T> = Schema & { readonly [described]?: T };

/** The type that a schema describes. */
export type Of<S> = S extends { readonly [described]?: infer T } ? Exclude<T, undefined> : never;

type Properties = { readonly [name: string]: SchemaOf<unknown> };
/** Reads well where an editor shows a type, and keeps the comments of the properties. */
type Flat<T> = { [K in keyof T]: T[K] };
/** What an object of these properties is; those named may be left out. */
export type ObjectOf<P, O = never> = Flat<
  { -readonly [K in keyof P as K extends O ? never : K]: Of<P[K]> } & {
    -readonly [K in keyof P as K extends O ? K : never]?: Of<P[K]>;
  }
>;

export const text: SchemaOf<string> = { type: 'string' };
export const number: SchemaOf<number> = { type: 'number' };
export const yesOrNo: SchemaOf<boolean> = { type: 'boolean' };
/** A whole number from 0. */
export const count: SchemaOf<number> = { type: 'integer', minimum: 0 };
/** A whole number from 1. */
export const ordinal: SchemaOf<number> = { type: 'integer', minimum: 1 };
/** A number from 0 to 1. */
export const share: SchemaOf<number> = { type: 'number', minimum: 0, maximum: 1 };
/** A date with its time (ISO 8601). */
export const moment: SchemaOf<string> = { type: 'string', format: 'date-time' };

/** One of some words. */
export const oneOf = <const W extends string>(...words: readonly W[]): SchemaOf<W> => ({ enum: words });

export const orNull = <T>(schema: SchemaOf<T>): SchemaOf<T | null> => ({ anyOf: [schema, { type: 'null' }] });

export const listOf = <T>(items: SchemaOf<T>): SchemaOf<T[]> => ({ type: 'array', items });

/** An object whose properties may have any name. */
export const mapOf = <T>(values: SchemaOf<T>): SchemaOf<{ [name: string]: T }> => ({
  type: 'object',
  additionalProperties: values,
});

/** An object whose properties are all there, but for those named after. */
export function object<const P extends Properties, O extends keyof P & string = never>(
  properties: P,
  ...optional: O[]
): SchemaOf<ObjectOf<P, O>> {
  const left: readonly string[] = optional;
  return { type: 'object', required: Object.keys(properties).filter((name) => !left.includes(name)), properties };
}

/** An object of one of several kinds, told by its `kind`. */
export const kinds = <const S extends readonly SchemaOf<unknown>[]>(...schemas: S): SchemaOf<Of<S[number]>> => ({
  type: 'object',
  required: ['kind'],
  discriminator: { propertyName: 'kind' },
  oneOf: schemas,
});

/** The schema that has this name in the contract. */
export const ref = <T>(name: string): SchemaOf<T> => ({ $ref: name });

/** A schema that is written elsewhere, and the type that belongs to it. */
export const as = <T>(schema: object): SchemaOf<T> => schema as SchemaOf<T>;

/** The same with a sentence about it, for the description of the API. */
export const saying = <T>(description: string, schema: SchemaOf<T>): SchemaOf<T> => ({ ...schema, description });
