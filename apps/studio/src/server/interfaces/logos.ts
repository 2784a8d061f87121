import { createHash } from 'node:crypto';
import { LIMITS } from '@yucca/contract';
import { and, eq, lt } from 'drizzle-orm';
import type { Db } from '../db/open';
import { interfaceFiles, interfaces, interfaceVersions } from '../db/schema';
import { Failure } from '../failure';
import { cleanSvg } from './clean-svg';

const TYPES = { png: 'image/png', jpg: 'image/jpeg', svg: 'image/svg+xml' } as const;
type Ending = keyof typeof TYPES;

/** What a file is, by its first bytes: names and headers may say anything. */
function endingOf(bytes: Buffer): Ending | null {
  if (bytes.subarray(0, 8).equals(Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]))) return 'png';
  if (bytes[0] === 0xff && bytes[1] === 0xd8 && bytes[2] === 0xff) return 'jpg';
  return /^\s*(<\?xml[^>]*>\s*)?(<!--[^]*?-->\s*|<!DOCTYPE[^>]*>\s*)*<svg[\s>]/i.test(
    bytes
      .subarray(0, 4096)
      .toString('utf8')
      .replace(/^\uFEFF/, ''),
  )
    ? 'svg'
    : null;
}

/**
 * Logos of pages. A file is called by what it holds, so that versions and drafts of a page name it for good, and
 * browsers keep it.
 */
export class Logos {
  readonly #db: Db;

  constructor(db: Db) {
    this.#db = db;
  }

  /**
   * Takes in a picture for a page; returns the name of its file. Logos that neither the page, its draft nor a version
   * of it names go with that. Throws a Failure for what is no picture, or too large a one.
   */
  add(interfaceId: number, bytes: Buffer): string {
    if (bytes.length > LIMITS.logoBytes) {
      const detail = `A logo may have ${LIMITS.logoBytes / 1000} kB; this one has ${Math.ceil(bytes.length / 1000)}.`;
      throw new Failure('too-large', detail);
    }
    const ending = endingOf(bytes);
    const kept = ending === 'svg' ? cleanedSvg(bytes) : bytes;
    if (ending === null || kept === null)
      throw new Failure('unsupported-type', 'A logo is a PNG, JPEG or SVG file. This one is none of them.');
    const name = `${createHash('sha256').update(kept).digest('hex').slice(0, 40)}.${ending}`;
    this.#db.$client
      .transaction(() => {
        this.#forget(interfaceId);
        this.#db.insert(interfaceFiles).values({ interfaceId, name, bytes: kept }).onConflictDoNothing().run();
      })
      .immediate();
    return name;
  }

  /** Drops the files that nothing names, but for those of the last day: a step of a design may be undone. */
  #forget(interfaceId: number): void {
    const own = eq(interfaceFiles.interfaceId, interfaceId);
    const documents = [
      ...this.#db.select().from(interfaces).where(eq(interfaces.id, interfaceId)).all(),
      ...this.#db.select().from(interfaceVersions).where(eq(interfaceVersions.ownerId, interfaceId)).all(),
    ].map(({ document }) => document);
    const dayAgo = new Date(Date.now() - 86_400_000).toISOString();
    const old = and(own, lt(interfaceFiles.addedAt, dayAgo));
    const names = this.#db.select({ name: interfaceFiles.name }).from(interfaceFiles).where(old).all();
    for (const { name } of names)
      if (!documents.some((document) => document.includes(name)))
        this.#db.delete(interfaceFiles).where(called(interfaceId, name)).run();
  }

  /** Asked for with every change of a design: the file itself stays where it is. */
  has(interfaceId: number, name: string): boolean {
    const { name: column } = interfaceFiles;
    return this.#db.select({ column }).from(interfaceFiles).where(called(interfaceId, name)).get() !== undefined;
  }

  /** A file with what it is; null when there is none. */
  read(interfaceId: number, name: string): { bytes: Buffer; type: string } | null {
    const found = this.#db.select().from(interfaceFiles).where(called(interfaceId, name)).get();
    return found ? { bytes: found.bytes, type: TYPES[name.split('.').at(-1) as Ending] } : null;
  }
}

const called = (interfaceId: number, name: string) =>
  and(eq(interfaceFiles.interfaceId, interfaceId), eq(interfaceFiles.name, name));

function cleanedSvg(bytes: Buffer): Buffer | null {
  const clean = cleanSvg(bytes.toString('utf8'));
  return clean === null ? null : Buffer.from(clean);
}
