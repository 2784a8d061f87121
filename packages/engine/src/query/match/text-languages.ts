import type { Tuning } from '@yucca/contract';
import { firstValue } from '../../columns/column.ts';
import { memoByName } from '../../memo/by-object.ts';
import type { Segment } from '../../segment/segment.ts';
import { languagesOf, namedLanguage } from '../../text/languages.ts';

/**
 * In which of the languages of a tuning each text of a segment is, by their numbers in `languagesOf`. What depends on a
 * language reaches only texts in it: in an English text `Rosen` is no form of `Rose`.
 */
export interface TextLanguages {
  /** By field number; `OF_RECORD` where each record tells. */
  ofField: Uint8Array;
  /** By document. */
  ofDoc: Uint8Array;
}

const OF_RECORD = 255;

/** The language of one text. */
export function languageAt({ ofField, ofDoc }: TextLanguages, doc: number, field: number): number {
  const language = ofField[field]!;
  return language === OF_RECORD ? ofDoc[doc]! : language;
}

/** The language of all texts of a field; null where it differs from record to record. */
export function languageOfField({ ofField }: TextLanguages, field: number): number | null {
  const language = ofField[field]!;
  return language === OF_RECORD ? null : language;
}

/** Null when all texts are in one language. */
export function textLanguages(segment: Segment, tuning: Tuning): TextLanguages | null {
  const languages = languagesOf(tuning);
  if (languages.length === 1) return null;
  const { otherLanguages, languageField } = tuning;
  const ofField = Uint8Array.from(segment.meta.searchFields, (field) => {
    const named = otherLanguages.find(({ fields }) => fields.includes(field));
    if (named !== undefined) return languages.indexOf(named.language, 1);
    return languageField === null ? 0 : OF_RECORD;
  });
  const ofDoc =
    languageField === null ? NO_RECORDS : recordLanguages(segment, JSON.stringify([languageField, languages]));
  return { ofField, ofDoc };
}

const NO_RECORDS = new Uint8Array(0);

/** The language that each record names; made once for a segment, a field and a list of languages. */
const recordLanguages = memoByName<Segment, Uint8Array>((segment, name) => {
  const [path, languages] = JSON.parse(name) as [string, string[]];
  const column = segment.values(path);
  const ofDoc = new Uint8Array(segment.docs);
  if (column === null) return ofDoc;
  const ofValue = Uint8Array.from({ length: column.size }, (_, value) => namedLanguage(languages, column.text(value)));
  for (let doc = 0; doc < ofDoc.length; doc++) {
    const value = firstValue(column, doc);
    if (value !== -1) ofDoc[doc] = ofValue[value]!;
  }
  return ofDoc;
}, 4);
