/** @jest-environment jsdom */
import { createTestClient } from '../src/testing.ts';

test('applications test in an environment that has no encoder of UTF-8 of its own', async () => {
  const client = createTestClient({
    plants: {
      records: [
        { id: 'P-1', name: 'Grüne Bärenklau 🐻', colour: 'grün' },
        { id: 'P-2', name: '室内多肉植物', colour: 'weiß' },
        { id: 'P-3', name: 'Érable de l’allée', colour: 'rouge' },
      ],
      tuning: { search: [{ field: 'name' }], facets: [{ name: 'colour', field: 'colour' }] },
    },
  });
  const found = async (q: string): Promise<unknown> =>
    (await client.search('plants', { q })).results.map(({ record }) => record.name);
  expect(await found('barenklau')).toEqual(['Grüne Bärenklau 🐻']);
  expect(await found('🐻')).toEqual(['Grüne Bärenklau 🐻']);
  expect(await found('植物')).toEqual(['室内多肉植物']);
  expect(await found('erable')).toEqual(['Érable de l’allée']);
  const { facets } = await client.search('plants', { facets: ['colour'] });
  expect(facets.colour).toMatchObject({ values: [{ value: 'grün' }, { value: 'rouge' }, { value: 'weiß' }] });
});

test('what is put in their place does what the standard says of UTF-8, and refuses the rest', () => {
  const [encoder, decoder] = [new TextEncoder(), new TextDecoder()];
  for (const text of ['', 'a', 'ü', '植', '🐻', 'a\ud800b']) {
    const bytes = encoder.encode(text);
    expect([...bytes]).toEqual([...Buffer.from(text)]);
    expect(decoder.decode(bytes)).toBe(text.replace('\ud800', '\ufffd'));
  }
  const room = new Uint8Array(5);
  // A character that does not fit is not begun.
  expect(encoder.encodeInto('aü植b', room.subarray(0, 4))).toEqual({ read: 2, written: 3 });
  expect([...room]).toEqual([0x61, 0xc3, 0xbc, 0, 0]);
  expect(decoder.decode(new Uint8Array([0xef, 0xbb, 0xbf, 0x61]))).toBe('a');
  expect(() => new TextDecoder('latin1')).toThrow('reads UTF-8 only');
});
