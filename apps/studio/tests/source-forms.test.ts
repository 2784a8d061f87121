/** @jest-environment node */
/** The form of a source: what is typed makes it, what it has is shown, and what is not asked for stays. */
import type { Feed, FeedSource } from '@yucca/contract';
import { answersOf, hostToAllow, schedulesWith, sourceOf } from '../src/features/feeds/source-forms';
import { validate } from '../src/server/validate';

const feedOf = (source: FeedSource): Feed => ({ name: 'Shop', source }) as Feed;

test.each<FeedSource>([
  { kind: 'webhook', types: { 'a/b': 'upsert' }, plain: { key: '/id' } },
  {
    kind: 'poll',
    url: 'https://shop.example/a.json',
    key: 'sku',
    at: '/data',
    timeoutS: 9,
    headers: { 'X-One': null, 'X-Two': null },
    cursor: { parameter: 'since', field: 'at' },
    allowPrivate: ['10.0.0.7:80', 'shop.local:80'],
    cron: '0 4 * * *',
  },
  { kind: 'poll', url: 'https://shop.example/map.xml', format: 'sitemap', everyS: 77 },
  { kind: 'poll', url: 'https://shop.example/a', format: 'csv' },
  { kind: 'folder', path: 'exports', watch: false, everyS: 60 },
  { kind: 'sqlite', file: 'a.db', key: 'id', table: 'plants', log: true },
  { kind: 'sqlite', file: 'a.db', key: 'id', query: 'select 1', changed: 'at' },
  { kind: 'postgres', host: 'db', database: 'shop', user: 'me', key: 'id', table: 't', password: null, port: 5433, ssl: true, follow: true, everyS: 5 }, // prettier-ignore
])('what is shown and saved without a change is the same: %j', (source) => {
  expect(sourceOf(source.kind, answersOf(feedOf(source)), source)).toEqual(source);
  expect(() => validate('FeedPatch', { source })).not.toThrow();
});

test('secrets that are typed anew are sent; what was emptied is left out', () => {
  const before: FeedSource = { kind: 'poll', url: 'https://a.example/', headers: { Authorization: null }, key: 'id' };
  const answers = { ...answersOf(feedOf(before)), headerValue: 'Bearer x', key: '' };
  expect(sourceOf('poll', answers, before)).toEqual({ kind: 'poll', url: 'https://a.example/', headers: { Authorization: 'Bearer x' } }); // prettier-ignore
  expect(sourceOf('poll', { ...answers, headerName: 'X-Key', headerValue: '' }, before)).toMatchObject({ headers: { 'X-Key': '' } }); // prettier-ignore
});

test('schedules that were set elsewhere can be kept; a host to allow is read out of a refusal', () => {
  expect(schedulesWith('77')[0]).toEqual(['77', 'every 77 seconds']);
  expect(schedulesWith('60')[0]![0]).toBe('5');
  expect(hostToAllow('x is in a private network. Allow 10.0.0.1:80 by name if it is meant.')).toBe('10.0.0.1:80');
  expect(hostToAllow('It answers 500.')).toBeNull();
});
