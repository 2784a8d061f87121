import { Readable } from 'node:stream';
import fc from 'fast-check';
import iconv from 'iconv-lite';
import { inspectFile } from '../src/inspect/inspect-file';
import { ToUtf8 } from '../src/server/records/to-utf8';
import { charsetOf, knownCharset } from '../src/text/charset';

const bytesIn = (charset: string, text: string): Buffer => iconv.encode(text, charset);
const utf16 = (text: string, bom = true): Buffer => Buffer.from(`${bom ? '\ufeff' : ''}${text}`, 'utf16le');

async function through(bytes: Buffer, said: string | null, size: number): Promise<string> {
  const pieces = Array.from({ length: Math.ceil(bytes.length / size) }, (_, i) =>
    bytes.subarray(i * size, (i + 1) * size),
  );
  const out: Buffer[] = [];
  for await (const piece of Readable.from(pieces).pipe(new ToUtf8(said))) out.push(piece as Buffer);
  return Buffer.concat(out).toString('utf8');
}

const GERMAN = 'name;preis\nKüchenschelle;4,50\nSchöllkraut für Gärten;3,20\nWeißdorn – groß;12,00\n';
const RUSSIAN = 'имя;цена\nРоза собачья;450\nПапоротник мужской;320\nМята садовая и другие растения;120\n';
const CHINESE = '名称,价格\n室内多肉植物,450\n花园里的玫瑰和薰衣草,320\n野生的蕨类植物与薄荷,120\n';
const JAPANESE = '名前,値段\n多肉植物の鉢,450\n室内で育てる観葉植物,320\n';
test.each([
  ['windows-1252', bytesIn('windows-1252', GERMAN), GERMAN],
  ['windows-1251', bytesIn('windows-1251', RUSSIAN), RUSSIAN],
  ['shift_jis', bytesIn('shift_jis', JAPANESE), JAPANESE],
  ['gb18030', bytesIn('gb18030', CHINESE), CHINESE],
  ['utf-16le', utf16(GERMAN), GERMAN],
  ['utf-16le', utf16(GERMAN, false), GERMAN],
  ['utf-16be', utf16(GERMAN).swap16(), GERMAN],
  ['utf-8', Buffer.from(`\ufeff${GERMAN}`), `\ufeff${GERMAN}`],
  ['utf-8', Buffer.from(JAPANESE), JAPANESE],
  ['utf-8', Buffer.from('name\nFern\n'), 'name\nFern\n'],
])('%s is told from its bytes', async (charset, bytes, text) => {
  expect(charsetOf(bytes)).toBe(charset);
  for (const size of [3, 1000]) expect(await through(bytes, null, size)).toBe(text);
});

test('what the sender says stands, but for a byte order mark', async () => {
  const bytes = bytesIn('windows-1252', 'Küche');
  expect(await through(bytes, 'windows-1251', 2)).toBe('Kьche');
  expect(await through(utf16('Küche'), 'windows-1252', 2)).toBe('Küche');
  expect([knownCharset(' Latin1 '), knownCharset('klingon')]).toEqual(['windows-1252', null]);
});

test('UTF-8 goes through as it is, however it is cut', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.string({ unit: 'binary', minLength: 1 }),
      fc.integer({ min: 1, max: 5 }),
      async (text, size) => {
        fc.pre(!text.includes('\0') && !text.startsWith('\ufeff'));
        expect(await through(Buffer.from(text), null, size)).toBe(Buffer.from(text).toString());
      },
    ),
  );
});

test.each([
  ['koi8-r', '<?xml version="1.0" encoding="KOI8-R"?>\n<roses><rose name="Роза"/></roses>'],
  ['windows-1250', '\n<?xml version="1.0" encoding=\'windows-1250\' standalone="yes"?><a>Růže</a>'],
  ['shift_jis', '<!doctype html><html><head><meta charset="Shift_JIS"><title>薔薇</title></head></html>'],
  ['iso-8859-2', '<html><meta http-equiv="Content-Type" content="text/html; charset=iso-8859-2"><p>růže</p>'],
])('%s is said by the text itself', (charset, text) => {
  expect(charsetOf(bytesIn(charset, text))).toBe(charset);
});

test('what a text says of itself is believed only when it is so', () => {
  const wrong = '<?xml version="1.0" encoding="UTF-8"?><a>rosé</a>';
  expect(charsetOf(bytesIn('windows-1252', wrong))).toBe('windows-1252');
  expect(charsetOf(bytesIn('utf-8', wrong.replace('UTF-8', 'no-such-charset')))).toBe('utf-8');
  expect(charsetOf(bytesIn('utf-8', 'name,note\na,"<?xml encoding=\'koi8-r\'?>"'))).toBe('utf-8');
});

test('the preview reads a file as the server will, and another charset can be said', async () => {
  const file = new File([new Uint8Array(bytesIn('windows-1252', GERMAN.replace('–', 'sehr')))], 'preise.csv');
  expect(await inspectFile(file)).toMatchObject({
    charset: 'windows-1252',
    sample: [{ name: 'Küchenschelle' }, {}, {}],
  });
  expect(await inspectFile(file, { charset: 'windows-1251' })).toMatchObject({
    sample: [{ name: 'Kьchenschelle' }, {}, {}],
  });
});
