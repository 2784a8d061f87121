import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { gzipSync } from 'node:zlib';
import { Server, somePlants } from '../src/server';

const BIN = path.join(__dirname, '../../packages/cli/bin/yucca.mjs');
const folder = mkdtempSync(path.join(tmpdir(), 'yucca-cli-'));
let server: Server;
beforeAll(async () => {
  server = await new Server().start();
});
afterAll(async () => {
  await server.leave();
  rmSync(folder, { recursive: true });
});

/** Runs the command as a person would, in a process of its own. */
function yucca(args: string[], input?: string): { code: number | null; out: string; err: string } {
  const { status, stdout, stderr } = spawnSync(process.execPath, [BIN, ...args], {
    cwd: folder,
    env: { ...process.env, YUCCA_URL: server.base, YUCCA_KEY: server.adminKey },
    ...(input === undefined ? {} : { input }),
  });
  return { code: status, out: stdout.toString(), err: stderr.toString() };
}

test('load, search, export, and settings out and in again', () => {
  const rows = somePlants(50).map((plant) => JSON.stringify(plant));
  writeFileSync(path.join(folder, 'plants.jsonl.gz'), gzipSync(rows.join('\n')));
  expect(yucca(['load', 'plants', 'plants.jsonl.gz', '--create'])).toMatchObject({
    code: 0,
    err: 'Loaded 50 rows into plants.\n',
  });
  const broken = yucca(['load', 'plants', '-', '--format', 'ndjson'], '{"id":"x1"}\n{"id":\n');
  expect([broken.code, broken.err]).toEqual([3, expect.stringContaining('line 2: not JSON')]);
  expect(yucca(['search', 'plants', 'dog rose', '--size', '1']).out).toMatch(
    /^\d+ found in [\d.]+ ms\nP-\d+\tDog rose/,
  );
  expect(yucca(['export', 'plants']).out.trim().split('\n')).toHaveLength(51);
  expect(yucca(['types', 'plants']).out).toContain('export type PlantsRecord = {\n  id: string;\n  name?: string;');
  expect(yucca(['types', 'plants', '--name', '1st'])).toMatchObject({ code: 2, out: '' });
  expect(yucca(['types', 'nowhere']).err).toContain('404');
  expect(yucca(['export', 'plants', '-o', 'plants.csv', '--fields', 'id,price', '--filter', "id < 'P-003'"]).code).toBe(
    0,
  );
  expect(readFileSync(path.join(folder, 'plants.csv'), 'utf8')).toBe('id,price\r\nP-001,4\r\nP-002,4.5\r\n');
  expect(yucca(['settings', 'pull', 'plants', '-o', 'settings.json']).code).toBe(0);
  const file = path.join(folder, 'settings.json');
  const settings = JSON.parse(readFileSync(file, 'utf8')) as { tuning: object };
  writeFileSync(file, JSON.stringify({ ...settings, tuning: { ...settings.tuning, signalShare: 0.4 } }));
  expect(yucca(['settings', 'push', 'plants', 'settings.json']).err).toContain('a draft waits');
  expect(yucca(['settings', 'push', 'plants', 'settings.json', '--publish', '--note', 'from git']).err).toMatch(
    /live version 3/,
  );
  expect(yucca(['settings', 'push', 'plants', 'settings.json']).err).toContain('Nothing differs');
});

test('a page as files, and again over its own files', () => {
  const pull = ['page', 'pull', 'plants', '--target', 'react', '--out', 'shop', '--origin', 'https://shop.example'];
  expect(yucca(pull)).toMatchObject({ code: 0, err: expect.stringMatching(/^\d+ files in shop; README/) as string });
  const read = (name: string): string => readFileSync(path.join(folder, 'shop', name), 'utf8');
  expect(read('src/search-page.tsx')).toContain('export function SearchPage');
  expect(read('.env')).toMatch(/VITE_YUCCA_KEY=yk_/);
  writeFileSync(path.join(folder, 'shop/src/mine.ts'), 'export {};');
  expect(yucca(pull)).toMatchObject({ code: 1, err: expect.stringContaining('shop is not empty') as string });
  expect(yucca([...pull, '--over']).code).toBe(0);
  expect(read('src/mine.ts')).toBe('export {};');
  expect(yucca(['page', 'pull', 'nowhere', '--out', 'none']).err).toContain('404');
  expect(yucca(['page', 'pull', 'plants', '--target', 'paper', '--out', 'none']).code).toBe(2);
});

test('what is refused ends with 1 and the sentence of the server', () => {
  expect(yucca(['search', 'nowhere'])).toMatchObject({ code: 1, err: expect.stringContaining('404') as string });
  expect(yucca(['--key', 'wrong', 'search', 'plants'])).toMatchObject({
    code: 1,
    err: expect.stringContaining('401') as string,
  });
  expect(yucca(['search', 'plants', '--filter', 'prce < 3']).err).toContain('did you mean');
});
