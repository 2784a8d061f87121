import { practice } from '../src/server/workers/practice';

test('made-up records and searches, a piece at a time, none of which throws', () => {
  const pieces = [...practice()];
  // Twenty lots of records, two parts of the index, a hundred searches.
  expect(pieces).toHaveLength(122);
});
