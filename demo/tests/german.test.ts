import { makeGermanGuides } from '../src/quillbrook/german-guides';
import { opened } from './opened';

const find = opened('anleitungen', makeGermanGuides());
const titles = (q: string): string[] => find({ q, size: 50 }).results.map(({ record }) => String(record.title));

test('a word is found inside compounds: the shears for the garden, and those for the hedge', () => {
  const found = titles('Schere');
  expect(found).toContain('Die Gartenschere: pflegen, schärfen, richtig ansetzen');
  expect(found).toContain('Hecken schneiden, wenn die Vögel ausgeflogen sind');
});

test.each([
  ['fuesse', 'Kletterpflanzen an der Hauswand'],
  ['Füsse', 'Kletterpflanzen an der Hauswand'],
  ['regentonne', 'Regenwasser sammeln: von der Dachrinne in die Tonne'],
  ['apfelbäume', 'Einen Obstbaum pflanzen und anbinden'],
  ['clematis', 'Kletterpflanzen an der Hauswand'],
  ['ungeziefer', 'Blattläuse an Rosenknospen'],
  ['hochbet', 'Ein Hochbeet anlegen, das von innen wärmt'],
  ['schnecke', 'Schnecken im Gemüsebeet: was wirklich hilft'],
  ['giessen', 'Richtig gießen in einem trockenen Sommer'],
])('„%s“ finds “%s”', (q, title) => {
  expect(titles(q)).toContain(title);
});

test('what is marked are whole letters of the text', () => {
  const [hit] = find({ q: 'fuesse' }).results.filter(({ record }) => String(record.title).startsWith('Kletter'));
  const { summary } = hit!.record as { summary: string };
  expect(hit!.marks['/summary']!.map(([from, to]) => summary.slice(from, to))).toEqual(['Füße']);
});
