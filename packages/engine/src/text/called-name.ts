import { fieldWords } from './field-words.ts';

const NAMING = new Set([
  ...['name', 'title', 'label', 'headline', 'caption', 'heading', 'subject'],
  ...['titel', 'bezeichnung', 'naam', 'nom', 'titre', 'nombre', 'título', 'titulo', 'nome', 'titolo', 'namn', 'navn'],
]);
/** What stands behind a name where it is written in several ways; the first is preferred. */
export const FORMS = ['default', 'common', 'en', 'full', 'official', 'text', 'display'];

/** Whether a field is called a name: `LongName`, `Airport Name`, `name.common`, `label`. */
export function isCalledName(path: string): boolean {
  const words = fieldWords(path);
  const last = words.at(-1) ?? '';
  return NAMING.has(last) || (words.length > 1 && FORMS.includes(last) && NAMING.has(words.at(-2)!));
}
