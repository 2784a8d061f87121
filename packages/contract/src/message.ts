import type { SchemaOf } from './schema-of.ts';

/**
 * A text for visitors, taken apart: `{name}` stands for a value. Where it depends on one, the forms stand beside each
 * other: the plural categories of Unicode CLDR (`one`, `few`, `other` …), an exact number (`=0`), or the words of a
 * choice. It is what is left of a text in ICU MessageFormat once its plurals are brought to the outside, so that a page
 * shows it without a parser.
 */
export type Message = string | MessageForms;

export interface MessageForms {
  /** The name of the value that decides. */
  readonly of: string;
  readonly other: Message;
  readonly [form: string]: Message;
}

/** Texts by their keys. */
export type Messages = { readonly [key: string]: Message };

export const messagesSchema: SchemaOf<Messages> = {
  type: 'object',
  additionalProperties: { type: ['string', 'object'] },
};
