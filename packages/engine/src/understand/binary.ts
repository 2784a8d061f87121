import { WHOLE_FORMATS } from '@yucca/contract';
import type { FileFormat } from './format.ts';

/** What a file that is no text holds: how it is read, or why not and what to do instead. */
export type Binary = { format: FileFormat; mediaType: string; reason: string } | { refusal: string };

const asTable = 'Open it and save it as CSV or as .xlsx.';

/** What a file that begins so is called, and how to get out of it what it holds. */
const REFUSED: readonly { begins: readonly number[]; refusal: string }[] = [
  { begins: [0xd0, 0xcf, 0x11, 0xe0], refusal: `This is a file of an older office program (.xls, .doc). ${asTable}` },
  {
    begins: [0x25, 0x50, 0x44, 0x46],
    refusal: 'This is a PDF. Ask for the data it was made from, as a table or JSON.',
  },
  {
    begins: [...'SQLite format 3'].map((letter) => letter.charCodeAt(0)),
    refusal: 'This is an SQLite database. Export a table: sqlite3 -header -csv FILE "select * from TABLE" > TABLE.csv',
  },
  {
    begins: [0x4f, 0x62, 0x6a, 0x01],
    refusal: 'This is Apache Avro. Convert it to JSON Lines: avro-tools tojson FILE.',
  },
  {
    begins: [...'ARROW1'].map((letter) => letter.charCodeAt(0)),
    refusal: 'This is Apache Arrow. Write it as Parquet or CSV, and drop that.',
  },
  { begins: [0x42, 0x5a, 0x68], refusal: 'The file is packed with bzip2. Unpack it and drop what is inside.' },
  {
    begins: [0x28, 0xb5, 0x2f, 0xfd],
    refusal: 'The file is packed with Zstandard. Unpack it and drop what is inside.',
  },
  { begins: [0xfd, 0x37, 0x7a, 0x58], refusal: 'The file is packed with xz. Unpack it and drop what is inside.' },
  { begins: [0x37, 0x7a, 0xbc, 0xaf], refusal: 'The file is packed with 7-Zip. Unpack it and drop what is inside.' },
  { begins: [0x52, 0x61, 0x72, 0x21], refusal: 'The file is packed with RAR. Unpack it and drop what is inside.' },
  { begins: [0x89, 0x50, 0x4e, 0x47], refusal: 'This is a picture. Records name their pictures by an address.' },
  { begins: [0xff, 0xd8, 0xff], refusal: 'This is a picture. Records name their pictures by an address.' },
  { begins: [0x47, 0x49, 0x46, 0x38], refusal: 'This is a picture. Records name their pictures by an address.' },
];

const beginsWith = (head: Uint8Array, bytes: readonly number[]): boolean => bytes.every((byte, i) => head[i] === byte);

/** Tells what a file holds that is no text; null when it may be one. */
export function guessBinary(head: Uint8Array, fileName = ''): Binary | null {
  if (beginsWith(head, [0x50, 0x41, 0x52, 0x31]))
    return { format: 'parquet', mediaType: WHOLE_FORMATS.parquet, reason: 'it begins with PAR1' };
  if (beginsWith(head, [0x50, 0x4b, 0x03, 0x04])) return archived(head, fileName);
  const refused = REFUSED.find(({ begins }) => beginsWith(head, begins));
  return refused === undefined ? null : { refusal: refused.refusal };
}

/** What an archive (ZIP) holds, by the names of its first files. */
function archived(head: Uint8Array, fileName: string): Binary {
  const text = new TextDecoder('latin1').decode(head.subarray(0, 8_192));
  if (text.includes('application/vnd.oasis.opendocument'))
    return { refusal: `This is an OpenDocument file (.ods, .odt). ${asTable}` };
  if (/word\/document/.test(text)) return { refusal: 'This is a text of a word processor. Save it as HTML.' };
  if (/\.xlsx$/i.test(fileName) || /xl\/(workbook|worksheets|_rels)/.test(text))
    return { format: 'xlsx', mediaType: WHOLE_FORMATS.xlsx, reason: 'it is a workbook' };
  return { format: 'pages', mediaType: WHOLE_FORMATS.zip, reason: 'it is an archive of pages' };
}
