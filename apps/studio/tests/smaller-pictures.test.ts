import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { SmallerPictures } from '../src/server/pictures/smaller-pictures';

const folder = mkdtempSync(path.join(tmpdir(), 'yucca-pictures-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const told: object[] = [];
const pictures = (): SmallerPictures => new SmallerPictures({ warn: (facts: object) => void told.push(facts) });
const noise = (width: number, height: number) =>
  sharp({
    create: { width, height, channels: 3, background: '#376', noise: { type: 'gaussian', mean: 128, sigma: 40 } },
  });

/** Writes a file into the folder; answers its path. */
function file(name: string, content: Uint8Array | string): string {
  const at = path.join(folder, name);
  writeFileSync(at, content);
  return at;
}
const sizeOf = async (bytes: Buffer | null) => {
  const { width, height, format } = await sharp(bytes!).metadata();
  return { width, height, format };
};

test('a photograph in the widths that pages show it in, in its own shape, and in far fewer bytes', async () => {
  const jpeg = await noise(1200, 800).jpeg().toBuffer();
  const at = file('rose.jpg', jpeg);
  const one = pictures();
  for (const width of [160, 240, 320, 640]) {
    const made = await one.get(at, 1, width);
    expect(await sizeOf(made)).toEqual({ width, height: Math.round(width / 1.5), format: 'webp' });
    expect(made!.length).toBeLessThan(jpeg.length / 3);
  }
});

test('only widths that pages use; nothing is made wider; what a camera has turned is turned back', async () => {
  const at = file('small.png', await noise(200, 100).png().toBuffer());
  const one = pictures();
  for (const width of [1, 161, 100_000, Number.NaN]) expect(await one.get(at, 1, width)).toBeNull();
  expect(await sizeOf(await one.get(at, 1, 320))).toMatchObject({ width: 200, height: 100 });
  const turned = file('turned.jpg', await noise(400, 200).jpeg().withMetadata({ orientation: 6 }).toBuffer());
  expect(await sizeOf(await one.get(turned, 1, 160))).toMatchObject({ width: 160, height: 320 });
});

test('a file that was written anew is made anew; the same one is made once, however many ask', async () => {
  const at = file('changed.png', await noise(400, 400).png().toBuffer());
  const one = pictures();
  const [first, second] = await Promise.all([one.get(at, 1, 160), one.get(at, 1, 160)]);
  expect(second).toBe(first);
  expect(await one.get(at, 1, 160)).toBe(first);
  file('changed.png', await noise(400, 200).png().toBuffer());
  expect(await sizeOf(await one.get(at, 2, 160))).toMatchObject({ width: 160, height: 80 });
});

test('drawings, animations and files that are no pictures stay as they are, and are tried once', async () => {
  const frames = await Promise.all([1, 2].map(() => noise(40, 40).png().toBuffer()));
  const animation = await sharp(frames, { join: { animated: true } })
    .webp()
    .toBuffer();
  const one = pictures();
  told.length = 0;
  const drawing = '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"/>';
  for (const name of ['drawing.svg', 'DRAWING.SVG']) expect(await one.get(file(name, drawing), 1, 160)).toBeNull();
  expect(await one.get(file('moving.webp', animation), 1, 160)).toBeNull();
  expect(told).toEqual([]);
  const broken = file('broken.jpg', 'no picture at all');
  for (let times = 0; times < 3; times++) expect(await one.get(broken, 1, 160)).toBeNull();
  expect(told).toEqual([{ file: broken, reason: expect.any(String) }]);
  // One that can't be made holds up no other.
  expect(await one.get(file('after.png', await noise(300, 300).png().toBuffer()), 1, 160)).not.toBeNull();
});

test('who comes when too many wait gets the file itself', async () => {
  const at = file('wanted.png', await noise(700, 700).png().toBuffer());
  const one = pictures();
  const answers = await Promise.all(Array.from({ length: 70 }, (_, i) => one.get(at, i, 160)));
  expect(answers.filter((bytes) => bytes === null)).toHaveLength(6);
});
