/** Texts in ICU MessageFormat, taken apart into what a page shows without a parser, and put together again. */
import { parse, TYPE, type MessageFormatElement } from '@formatjs/icu-messageformat-parser';
import type { Message, MessageForms } from '@yucca/contract';

/** A text that cannot be used; the message says why, in words for whoever wrote it. */
export class TextError extends Error {
  override name = 'TextError';
}

/** Sentences that one text may become: each of its plurals multiplies them. */
const MOST_FORMS = 60;
const PLURAL = /^(=\d+|zero|one|two|few|many|other)$/;

/**
 * Takes a text apart. Plurals and choices are brought to its outside, so that each form is a whole sentence. Throws a
 * TextError.
 */
export function fromIcu(text: string): Message {
  const message = messageOf(parsed(text), null);
  if (formsOf(message) > MOST_FORMS) throw new TextError(`has more than ${MOST_FORMS} forms`);
  return message;
}

function parsed(text: string): MessageFormatElement[] {
  try {
    // Markup in a text is shown as it is written.
    return parse(text, { ignoreTag: true, shouldParseSkeletons: false });
  } catch (error) {
    if (!(error instanceof SyntaxError)) throw error;
    const { location } = error as { location?: { start: { column: number } } };
    const at = location ? ` at character ${location.start.column}` : '';
    throw new TextError(`is not in ICU MessageFormat: ${error.message.toLowerCase().replaceAll('_', ' ')}${at}`);
  }
}

function messageOf(elements: readonly MessageFormatElement[], counted: string | null): Message {
  return elements.reduce<Message>((before, element) => joined(before, partOf(element, counted)), '');
}

function partOf(element: MessageFormatElement, counted: string | null): Message {
  switch (element.type) {
    case TYPE.literal:
      if (/\{\w+\}/.test(element.value)) throw new TextError('has a name in braces that is quoted');
      return element.value;
    case TYPE.argument:
    case TYPE.number:
      return `{${element.value}}`;
    case TYPE.pound:
      return `{${counted}}`;
    case TYPE.plural:
      if (element.pluralType === 'ordinal') throw new TextError('has an ordinal, which no text here needs');
      if (element.offset !== 0) throw new TextError('has a plural with an offset, which no text here needs');
      return forms(element.value, element.options, element.value);
    case TYPE.select:
      return forms(element.value, element.options, counted);
    default:
      throw new TextError('has a date, a time or a tag, which no text here needs');
  }
}

function forms(
  of: string,
  options: Record<string, { value: MessageFormatElement[] }>,
  counted: string | null,
): MessageForms {
  const named = Object.entries(options).map(([form, { value }]) => [form, messageOf(value, counted)] as const);
  return { of, ...Object.fromEntries(named) } as unknown as MessageForms;
}

const mapped = (message: Message, change: (form: string) => Message): Message => {
  if (typeof message === 'string') return change(message);
  const { of, ...all } = message;
  return { of, ...Object.fromEntries(Object.entries(all).map(([form, one]) => [form, mapped(one, change)])) } as unknown as MessageForms; // prettier-ignore
};

/** One text behind another: each form of the one goes before each form of the other. */
const joined = (before: Message, after: Message): Message =>
  mapped(before, (first) => mapped(after, (second) => first + second));

function formsOf(message: Message): number {
  if (typeof message === 'string') return 1;
  return Object.entries(message).reduce((sum, [form, one]) => sum + (form === 'of' ? 0 : formsOf(one)), 0);
}

/** A text as it is written in ICU MessageFormat. */
export function toIcu(message: Message): string {
  if (typeof message === 'string') return message.replace(/'(?=[{}])/g, "''");
  const { of, ...all } = message;
  const isPlural = Object.keys(all).every((form) => PLURAL.test(form));
  const written = Object.entries(all).map(([form, one]) => `${form} {${toIcu(one)}}`);
  return `{${of}, ${isPlural ? 'plural' : 'select'}, ${written.join(' ')}}`;
}

/** The names of the values that a text uses. */
export function namesIn(message: Message): Set<string> {
  if (typeof message === 'string') return new Set([...message.matchAll(/\{(\w+)\}/g)].map(([, name]) => name!));
  const { of, ...all } = message;
  return new Set([of, ...Object.values(all).flatMap((one) => [...namesIn(one)])]);
}
