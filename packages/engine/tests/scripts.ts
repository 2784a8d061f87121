import fc from 'fast-check';

/** Words of many scripts, some of them beginnings, forms or other writings of others. All made up or everyday. */
export const SCRIPTS = [
  ...[
    'rose',
    'Röslein',
    'Straße',
    "l'érable",
    'érable',
    'dell’orto',
    'orto',
    'AG-20/b',
    '3.5mm',
    'naïve',
    'łódź',
    'đỏ',
  ],
  ...['сад', 'сады', 'йод', 'иод', 'ёлка', 'елка', 'м’ята', "м'ята", 'мята', 'κήπος', 'ΚΗΠΟΣ', 'κηπος'],
  ...['حديقة', 'حَدِيقَه', 'الحديقة', 'گل', 'كتاب', 'کتاب', 'می\u200cشود', '١٩٨٧', '۱۹۸۷', '1987'],
  ...['גִּנָּה', 'גינה', 'שלום', 'हिंदी', 'हिँदी', 'क़लम', 'कलम', 'बाग़ीचा', 'पौधा', '१२'],
  ...['장미', '자미', '장', 'ㅈ', '꽃밭', '정원에서', '정원', '값'],
  ...[
    '室内多肉植物',
    '植物',
    '多肉',
    '植木鉢',
    '鉢',
    'サボテン',
    'さぼてん',
    'ｻﾎﾞﾃﾝ',
    '花屋2026',
    'コーヒー',
    'か\u3099',
    'が',
  ],
  ...['ดอกไม้', 'ดอก', 'สีเขียว', 'สีเ', 'ກຸຫລາບ'],
  ...['🌱', '❤️', '❤', '👩🏽‍🌾', '👩‍🌾', '🇩🇪', '€', '$', '©', 'Acme®', '20 °C', '→', '…', '!?', '㎏', 'Ⅳ'],
] as const;

const piece = fc.oneof(
  { weight: 5, arbitrary: fc.constantFrom(...SCRIPTS) },
  { weight: 1, arbitrary: fc.constantFrom(...SCRIPTS).map((word) => word.normalize('NFD')) },
  { weight: 1, arbitrary: fc.constantFrom(...SCRIPTS).chain((word) => beginningOf(word)) },
);

/** A word, or the first letters of one. */
function beginningOf(word: string): fc.Arbitrary<string> {
  const letters = [...word];
  return fc.integer({ min: 1, max: letters.length }).map((count) => letters.slice(0, count).join(''));
}

export const anyWord = piece;

/** Texts that mix scripts, with and without spaces between them. */
export const anyText = fc
  .array(fc.tuple(piece, fc.constantFrom(' ', ' ', ' ', '', '-', '’', '. ', '\u200b')), { maxLength: 5 })
  .map((list) => list.map(([word, gap]) => word + gap).join(''));
