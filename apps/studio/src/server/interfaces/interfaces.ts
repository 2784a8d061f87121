import type { Interface, InterfaceDocument, InterfacePage, NewInterface, PageParts } from '@yucca/contract';
import { cardFormat, completeTuning, interfacePage } from '@yucca/contract';
import { asc, eq } from 'drizzle-orm';
import { LRUCache } from 'lru-cache';
import type { Collections } from '../collections/collections';
import type { Db } from '../db/open';
import { interfaces, interfaceVersions } from '../db/schema';
import { Failure } from '../failure';
import { applyMergePatch } from '../records/merge-patch';
import type { Tunings } from '../tuning/tuning';
import { readOwnCss } from '@/text/own-css';
import { languageProblems, pageLanguage } from '@/text/page-language';
import { validate } from '../validate';
import { Versions, type VersionEntry } from '../versions/versions';
import { designProblems, unknownCollection } from './design-problems';
import { Logos } from './logos';
import type { PreviewTokens } from './preview-tokens';

type Row = typeof interfaces.$inferSelect;

export interface InterfacesParts {
  db: Db;
  collections: Collections;
  tunings: Tunings;
  previews: PreviewTokens;
}

/** Designed search pages, and the plain one that every collection has without being asked. */
export class Interfaces {
  readonly #db: Db;
  readonly #collections: Collections;
  readonly #tunings: Tunings;
  readonly #previews: PreviewTokens;
  readonly #versions: Versions<InterfaceDocument>;
  readonly #logos: Logos;

  constructor({ db, collections, tunings, previews }: InterfacesParts) {
    this.#db = db;
    this.#collections = collections;
    this.#tunings = tunings;
    this.#previews = previews;
    this.#versions = new Versions(db, interfaceVersions);
    this.#logos = new Logos(db);
  }

  list(): Interface[] {
    return this.#rows().map((row) => this.#present(row));
  }

  #rows(): Row[] {
    return this.#db.select().from(interfaces).orderBy(asc(interfaces.slug)).all();
  }

  /** An interface with the document of a version. */
  get(slug: string, version: 'live' | 'draft' | number = 'live'): Interface {
    const row = this.#row(slug);
    if (version === 'live') return this.#present(row);
    const document = this.#versions.read(row.id, row.liveVersion, version);
    if (document === null) throw new Failure('not-found', `“${slug}” has no version ${version}.`);
    return { ...this.#present(row), document };
  }

  /** The number of the live version; 0 for the page of a collection that has no interface. */
  liveVersion(slug: string): number {
    return this.#find(slug)?.liveVersion ?? 0;
  }

  #row(slug: string): Row {
    const row = this.#find(slug);
    if (!row) throw new Failure('not-found', `There is no interface called “${slug}”.`);
    return row;
  }

  #present({ id, slug, liveVersion, document, createdAt, changedAt }: Row): Interface {
    const draftChanged = this.#versions.hasDraft(id);
    return {
      ...{ slug, document: JSON.parse(document) as InterfaceDocument, liveVersion, draftChanged },
      ...{ createdAt, changedAt },
    };
  }

  /** Makes a page. Throws a Failure when the slug is taken, or names a collection other than the page's own. */
  create({ slug, ...document }: NewInterface): Interface {
    if (this.#find(slug)) throw taken(`There is already an interface called “${slug}”.`);
    const shadowed = slug !== document.collection && this.#collections.has(slug);
    if (shadowed) throw taken(`“${slug}” is a collection, and /s/${slug} is its page.`);
    this.#check(document, slug);
    this.#add(slug, document);
    return this.get(slug);
  }

  #add(slug: string, document: InterfaceDocument): Row {
    const text = JSON.stringify(document);
    return this.#db.$client
      .transaction(() => {
        const row = this.#db.insert(interfaces).values({ slug, document: text }).returning().get();
        const first = { ownerId: row.id, version: row.liveVersion, document: text, note: 'As created' };
        this.#db.insert(interfaceVersions).values(first).run();
        return row;
      })
      .immediate();
  }

  /** Writes and publishes in one step; a draft that waits stays as it is. */
  put(slug: string, document: InterfaceDocument): Interface {
    const row = this.#row(slug);
    this.#check(document, slug);
    this.#makeLive(row, document, null);
    return this.get(slug);
  }

  #makeLive({ id }: Row, document: InterfaceDocument, note: string | null, dropDraft = false): number {
    const changedAt = new Date().toISOString();
    return this.#db.$client
      .transaction((): number => {
        const { liveVersion: before } = this.#db.select().from(interfaces).where(eq(interfaces.id, id)).get()!;
        const liveVersion = this.#versions.add(id, before, document, note, changedAt);
        const live = { document: JSON.stringify(document), liveVersion, changedAt };
        this.#db.update(interfaces).set(live).where(eq(interfaces.id, id)).run();
        if (dropDraft) this.#versions.dropDraft(id);
        return liveVersion;
      })
      .immediate();
  }

  /**
   * Puts another draft in the place of the one there is. With `onlyIf`, only while that is its tag. The page that every
   * collection has becomes an interface of its own by its first draft. Throws a Failure with pointers.
   */
  replaceDraft(slug: string, input: unknown, onlyIf: string | null = null): InterfaceDocument {
    return this.#changeDraft(slug, onlyIf, () => validate('Interface', input));
  }

  /** Changes the draft there is (RFC 7396). */
  patchDraft(slug: string, patch: unknown, onlyIf: string | null = null): InterfaceDocument {
    return this.#changeDraft(slug, onlyIf, (before) => validate('Interface', applyMergePatch(before, patch)));
  }

  #changeDraft(
    slug: string,
    onlyIf: string | null,
    make: (before: InterfaceDocument) => InterfaceDocument,
  ): InterfaceDocument {
    const known = this.#find(slug);
    const live: InterfaceDocument = known ? this.get(slug, 'draft').document : { collection: slug };
    const document = make(live);
    this.#check(document, slug, live);
    if (!known && !this.#collections.has(slug)) throw new Failure('not-found', `There is no interface “${slug}”.`);
    return this.#db.$client
      .transaction((): InterfaceDocument => {
        const row = known ?? this.#add(slug, { collection: slug });
        this.#versions.requireTag(row.id, row.liveVersion, onlyIf);
        this.#versions.storeDraft(row.id, document);
        return document;
      })
      .immediate();
  }

  discardDraft(slug: string): void {
    this.#versions.dropDraft(this.#row(slug).id);
  }

  /** Makes the draft live in one step; returns the live version: a new one when there was a draft. */
  publish(slug: string, note: string | null): number {
    const row = this.#row(slug);
    const draft = this.#versions.draft(row.id);
    if (draft === null) return row.liveVersion;
    return this.#makeLive(row, draft, note, true);
  }

  versions(slug: string): VersionEntry[] {
    const { id, liveVersion } = this.#row(slug);
    return this.#versions.list(id, liveVersion);
  }

  remove(slug: string): void {
    const { id } = this.#row(slug);
    this.#db.$client
      .transaction(() => {
        this.#versions.remove(id);
        this.#db.delete(interfaces).where(eq(interfaces.id, id)).run();
      })
      .immediate();
  }

  /** Takes in a logo for a page; returns the name of its file. Throws a Failure (see Logos). */
  addLogo(slug: string, bytes: Buffer): string {
    if (!this.#find(slug) && !this.#collections.has(slug))
      throw new Failure('not-found', `There is no interface “${slug}”.`);
    return this.#logos.add((this.#find(slug) ?? this.#add(slug, { collection: slug })).id, bytes);
  }

  /** The file of a logo; null when the page has none of this name. */
  logo(slug: string, name: string): { bytes: Buffer; type: string } | null {
    const row = this.#find(slug);
    return row ? this.#logos.read(row.id, name) : null;
  }

  /** A signed address at which the draft of a page is shown for a time. */
  preview(slug: string, seconds: number): { address: string; expiresAt: string } {
    this.#documentOf(slug, 'draft');
    const { token, expiresAt } = this.#previews.make(slug, seconds);
    return { address: `${addressOf(slug)}?preview=${token}`, expiresAt };
  }

  /** Whether a preview's token opens the draft of a page. */
  opensDraft(slug: string, token: string): boolean {
    return this.#previews.opens(slug, token);
  }

  /** The page of a collection without an interface has a document too: that it shows the collection. */
  #documentOf(slug: string, version: 'live' | 'draft' | number): InterfaceDocument {
    if (this.#find(slug)) return this.get(slug, version).document;
    return { collection: this.#collections.row(slug).name ?? slug };
  }

  /** What a designer begins with. */
  design(slug: string): { live: InterfaceDocument; draft: InterfaceDocument; exists: boolean } {
    const [live, draft] = [this.#documentOf(slug, 'live'), this.#documentOf(slug, 'draft')];
    return { live, draft, exists: this.#find(slug) !== undefined && this.get(slug).draftChanged };
  }

  /**
   * What the page at `/s/{slug}` is made of: that of an interface, or of the collection of this name. `language`: the
   * one that is wanted, as a tag; with `isWhole` all of its texts, else those that are other than English.
   */
  page(
    slug: string,
    version: 'live' | 'draft' | number = 'live',
    { language = null, isWhole = true }: InLanguage = {},
  ): InterfacePage {
    // prettier-ignore
    const document = this.#documentOf(slug, version);
    const page = interfacePage(document, this.parts(slug, document), pageLanguage(document, language, isWhole));
    return document.css === undefined ? page : { ...page, css: ownCssOf(document.css) };
  }

  /** What a page can be made of, besides its design. */
  parts(slug: string, document: InterfaceDocument, all = false): PageParts {
    const { collection, autocomplete = [], shelves = [] } = document;
    const { title, records, keyField: key } = this.#collections.row(collection);
    const tuning = completeTuning(this.#tunings.get(collection, 'live'));
    const names = all
      ? this.#collections.list().map(({ name }) => name)
      : [...autocomplete, ...shelves].flatMap((section) => section.collection ?? []);
    const others = [...new Set(names)].filter((name) => name !== collection && this.#collections.has(name));
    return {
      ...{ slug, title, records, key, geo: tuning.geo, card: this.#collections.card(collection) },
      facets: tuning.facets.map(({ name, kind, label, field }) => ({ name, kind, label, field })),
      sorts: tuning.sorts.map(({ name, label }) => ({ name, label })),
      others: Object.fromEntries(others.map((name) => [name, this.#other(name)])),
    };
  }

  /** How records of another collection are shown: as on its own page. */
  #other(collection: string): PageParts['others'][string] {
    // Every visitor's page asks for it: whether a page has a draft is not looked up.
    const page = this.#rows()
      .map(({ slug, document }) => ({ slug, document: JSON.parse(document) as InterfaceDocument }))
      .find(({ document }) => document.collection === collection);
    const guessed = this.#collections.card(collection);
    const format = page && cardFormat(page.document, guessed);
    return {
      card: { ...guessed, ...page?.document.card },
      slug: page?.slug ?? collection,
      key: this.#collections.row(collection).keyField,
      ...(page?.document.link !== undefined && { link: page.document.link }),
      ...(format && { format }),
    };
  }

  #find(slug: string): Row | undefined {
    return this.#db.select().from(interfaces).where(eq(interfaces.slug, slug)).get();
  }

  /**
   * Throws a Failure for what the page could not be made of. What `known` names already may have gone since: the page
   * leaves it out.
   */
  #check(document: InterfaceDocument, slug: string, known: InterfaceDocument | null = null): void {
    const { collection, header } = document;
    if (!this.#collections.has(collection)) throw invalid([unknownCollection('/collection', collection)]);
    const tuningOf = (name: string) => completeTuning(this.#tunings.get(name, 'live'));
    const parts = designProblems(document, known, { has: (name) => this.#collections.has(name), tuningOf });
    if (known === null || document.css !== known.css) parts.push(...problemsOf(document.css));
    parts.push(...languageProblems(document));
    const row = this.#find(slug);
    if (header?.logo !== undefined && !(row && this.#logos.has(row.id, header.logo)))
      parts.push({ pointer: '/header/logo', detail: 'there is no such file; send it to the page first' });
    if (parts.length > 0) throw invalid(parts);
  }
}

interface InLanguage {
  language?: string | null;
  isWhole?: boolean;
}

/** Read once, asked for with every page. */
const sheets = new LRUCache<string, string>({ max: 100, memoMethod: (source) => readOwnCss(source).css });
const ownCssOf = (source: string): string => sheets.memo(source);

const problemsOf = (css: string | undefined): { pointer: string; detail: string }[] =>
  css === undefined
    ? []
    : readOwnCss(css).problems.map(({ line, column, detail }) => ({
        pointer: '/css',
        detail: `line ${line}, column ${column}: ${detail}`,
      }));

const addressOf = (slug: string): string => `/s/${slug}`;

const taken = (detail: string): Failure => new Failure('conflict', detail, [{ pointer: '/slug', detail: 'taken' }]);

const invalid = (parts: { pointer: string; detail: string }[]): Failure =>
  new Failure('invalid', parts.map(({ pointer, detail }) => `${pointer}: ${detail}`).join('; '), parts);
