/** @jest-environment node */
import type { AuditEntry } from '@yucca/contract';
import { OPERATIONS } from '@yucca/contract/openapi';
import fc from 'fast-check';
import { troublesOf } from '../src/features/frame/status-line';
import { wordsOf } from '../src/features/keys/changes';
import { Router, type RouteTable } from '../src/front/router';
import { checkTarget } from '../src/front/gate';
import { asCell } from '../src/server/scan/export';
import { baseOf, isSecure } from '../src/http/visitor-address';

describe('the router', () => {
  const table: RouteTable = [
    ['/a', {}],
    ['/a/[b]', {}],
    ['/a/[b]/c', {}],
    ['/a/fixed', {}],
    ['/a/fixed/[d]/e', {}],
    ['/files/[...path]', {}],
    ['/api/[...rest]', {}],
    ['/api/known', {}],
  ];
  const router = new Router(table);
  const find = (path: string) => {
    const found = router.find(path.slice(1).split('/'));
    return found && [found.pattern, found.params];
  };

  test.each([
    ['/a', ['/a', {}]],
    ['/a/x', ['/a/[b]', { b: 'x' }]],
    ['/a/fixed', ['/a/fixed', {}]],
    ['/a/fixed/c', ['/a/[b]/c', { b: 'fixed' }]],
    ['/a/fixed/x/e', ['/a/fixed/[d]/e', { d: 'x' }]],
    ['/a/__proto__', ['/a/[b]', { b: '__proto__' }]],
    ['/files/x/y.svg', ['/files/[...path]', { path: 'x/y.svg' }]],
    ['/api/known', ['/api/known', {}]],
    ['/api/known/more', ['/api/[...rest]', { rest: 'known/more' }]],
    ['/a//c', null],
    ['/', null],
    ['/b', null],
  ])('%s', (path, expected) => expect(find(path)).toEqual(expected));

  test('finds what trying every pattern finds', () => {
    const part = fc.constantFrom('a', 'b', 'c', 'fixed', 'e', 'files', 'api', 'known', '', '..');
    fc.assert(
      fc.property(fc.array(part, { minLength: 1, maxLength: 5 }), (parts) => {
        const fits = (pattern: string): boolean => {
          const wanted = pattern.slice(1).split('/');
          const rest = wanted.at(-1)!.startsWith('[...');
          if (rest ? parts.length < wanted.length : parts.length !== wanted.length) return false;
          return wanted.every(
            (one, i) => one.startsWith('[...') || (one.startsWith('[') ? parts[i] !== '' : one === parts[i]),
          );
        };
        const any = table.some(([pattern]) => fits(pattern));
        const found = router.find(parts);
        expect(found !== null).toBe(any);
        if (found) expect(fits(found.pattern)).toBe(true);
      }),
    );
  });
});

describe('the gate', () => {
  const target = (url: string, method = 'GET', headers: Record<string, string> = {}) =>
    checkTarget({ method, url, headers: { host: 'x', ...headers }, rawHeaders: [] } as never);

  test('a path in its parts, each decoded by itself', () => {
    expect(target('/a/b%2Fc/..?q=/x/')).toEqual({ parts: ['a', 'b/c', '..'], trailing: false });
    expect(target('/a/')).toEqual({ parts: ['a'], trailing: true });
    expect(target('/')).toEqual({ parts: [''], trailing: false });
    fc.assert(
      fc.property(
        fc.array(
          fc.string({ unit: 'grapheme', minLength: 1 }).filter((one) => one.isWellFormed()),
          { minLength: 1, maxLength: 4 },
        ),
        (parts) => {
          expect(target(`/${parts.map(encodeURIComponent).join('/')}`).parts).toEqual(parts);
        },
      ),
    );
  });

  test.each([
    ['/%zz', 'GET', {}, 'unreadable'],
    ['/x', 'TRACE', {}, 'wrong-method'],
    [`/${'x'.repeat(40_000)}`, 'GET', {}, 'too-long'],
    ['http://x/', 'GET', {}, 'unreadable'],
    ['/x', 'POST', { 'content-length': '1', 'transfer-encoding': 'chunked' }, 'unreadable'],
  ] as [string, string, Record<string, string>, string][])('%.20s %s is refused', (url, method, headers, code) => {
    expect(() => target(url, method, headers)).toThrow(expect.objectContaining({ code }) as Error);
  });
});

test('where a visitor reaches the server, whatever the headers say', () => {
  const at = (headers: Record<string, string>, told: string | null = null) => baseOf(new Headers(headers), told);
  expect(at({ host: 'shop.example:8080', 'x-forwarded-proto': 'https' })).toBe('https://shop.example:8080');
  expect(at({ host: 'shop.example', 'x-forwarded-proto': 'https, http' })).toBe('https://shop.example');
  expect(at({ host: '[::1]:4310' })).toBe('http://[::1]:4310');
  for (const host of ['', 'a b', 'x"><script>', 'evil.example/path', 'user@evil.example', 'x:99999999']) expect(at({ host })).toBe('http://localhost'); // prettier-ignore
  expect(at({ host: 'x', 'x-forwarded-proto': 'javascript' })).toBe('http://x');
  expect(at({ host: 'x' }, 'https://search.example/')).toBe('https://search.example');
  expect(isSecure(new Headers({ 'x-forwarded-proto': 'HTTPS' }))).toBe(true);
});

test('cells that a spreadsheet would run are text, numbers stay numbers', () => {
  for (const cell of ['=1+1', '+cmd', '-cmd', '@SUM(A1)', '\t=1', '\r=1']) expect(asCell(cell, true)).toBe(`'${cell}`);
  for (const cell of ['-3', '+4,5', '-1e9', 'rose', '', '3 = 3', '2026-01-01']) expect(asCell(cell, true)).toBe(cell);
  expect(asCell('=1+1', false)).toBe('=1+1');
});

describe('what people read', () => {
  test('every change of the contract has words', () => {
    const asks = [
      'search',
      'multiSearch',
      'events',
      'whereabouts',
      'trial',
      'tuningCost',
      'runJudgements',
      'previewFieldRule',
      'readSynonyms',
    ];
    const entry = (method: string, path: string): AuditEntry => ({ id: 1, at: '', actor: 'x', keyId: null, remote: null, method: method.toUpperCase(), path: path.replace(/\{\w+\}/g, 'x'), collection: 'x', detail: null }); // prettier-ignore
    const changes = OPERATIONS.filter(({ id, method, right, path }) => method !== 'get' && right !== 'search' && right !== 'read' && right !== 'none' && !asks.includes(id) && !/\/(whereabouts|trial|cost|run|preview|read|inspect|compare)$/.test(path)); // prettier-ignore
    expect(changes.length).toBeGreaterThan(15);
    for (const { method, path } of changes) {
      const words = wordsOf(entry(method, path));
      expect([path, /^[A-Z][a-z]/.test(words)]).toEqual([path, true]);
    }
    expect(wordsOf({ ...entry('post', '/collections/x/tuning/publish'), detail: { from: 2, to: 3 } })).toBe(
      'Published version 3 in place of 2',
    );
  });

  test('troubles: the disk, the database, what can be found meanwhile', () => {
    const well = { status: 'ready', storage: { state: 'ok', reason: null, since: null }, integrity: { state: 'ok', checkedAt: null, problems: [] }, threads: [] } as const; // prettier-ignore
    const partial = { name: 'plants', state: 'partial', progress: 0.42 } as const;
    expect(
      troublesOf({ ...well, integrity: { ...well.integrity, problems: [] }, threads: [], collections: [] }, null),
    ).toEqual([]);
    expect(
      troublesOf(
        { ...well, integrity: { ...well.integrity, problems: [] }, threads: [], collections: [partial] },
        'plants',
      )[0],
    ).toContain('42 %');
    expect(
      troublesOf(
        { ...well, integrity: { ...well.integrity, problems: [] }, threads: [], collections: [partial] },
        'guides',
      ),
    ).toEqual([]);
    expect(troublesOf({ ...well, threads: [], collections: [], integrity: { state: 'damaged', checkedAt: null, problems: ['page 3 is torn'] }, storage: { state: 'refusing', reason: 'The disk is full.', since: null } }, null)).toEqual(['The disk is full.', 'The database is damaged: page 3 is torn.']); // prettier-ignore
  });
});
