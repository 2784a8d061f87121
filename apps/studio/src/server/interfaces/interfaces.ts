import type { Card, Interface, InterfaceDocument, InterfacePage, NewInterface, PageSection } from '@yucca/contract';
import { completeTuning } from '@yucca/contract';
import { asc, eq } from 'drizzle-orm';
import type { Collections } from '../collections/collections';
import type { Db } from '../db/open';
import { interfaces } from '../db/schema';
import { Failure } from '../failure';
import type { Tunings } from '../tuning/tuning';

type Row = typeof interfaces.$inferSelect;
type SectionDocument = NonNullable<InterfaceDocument['autocomplete']>[number];

const ROWS = 4;
const PAGE_SIZE = 24;

/** Designed search pages, and the plain one that every collection has without being asked. */
export class Interfaces {
  readonly #db: Db;
  readonly #collections: Collections;
  readonly #tunings: Tunings;

  constructor(db: Db, collections: Collections, tunings: Tunings) {
    this.#db = db;
    this.#collections = collections;
    this.#tunings = tunings;
  }

  list(): Interface[] {
    return this.#db.select().from(interfaces).orderBy(asc(interfaces.slug)).all().map(present);
  }

  get(slug: string): Interface {
    const row = this.#find(slug);
    if (!row) throw new Failure('not-found', `There is no interface called “${slug}”.`);
    return present(row);
  }

  /** Makes a page. Throws a Failure when the slug is taken, or names a collection other than the page's own. */
  create({ slug, ...document }: NewInterface): Interface {
    if (this.#find(slug)) throw taken(`There is already an interface called “${slug}”.`);
    const shadowed = slug !== document.collection && this.#collections.has(slug);
    if (shadowed) throw taken(`“${slug}” is a collection, and /s/${slug} is its page.`);
    this.#check(document);
    this.#db
      .insert(interfaces)
      .values({ slug, document: JSON.stringify(document) })
      .run();
    return this.get(slug);
  }

  put(slug: string, document: InterfaceDocument): Interface {
    this.get(slug);
    this.#check(document);
    this.#db
      .update(interfaces)
      .set({ document: JSON.stringify(document), changedAt: new Date().toISOString() })
      .where(eq(interfaces.slug, slug))
      .run();
    return this.get(slug);
  }

  remove(slug: string): void {
    this.get(slug);
    this.#db.delete(interfaces).where(eq(interfaces.slug, slug)).run();
  }

  /** What the page at `/s/{slug}` is made of: that of an interface, or of the collection of this name. */
  page(slug: string): InterfacePage {
    const row = this.#find(slug);
    const document = row ? present(row).document : { collection: slug };
    const { collection } = document;
    const { title, records } = this.#collections.row(collection);
    const tuning = completeTuning(this.#tunings.get(collection, 'live'));
    const facets = tuning.facets.map(({ name, kind, label }) => ({ name, kind, label }));
    const wanted = document.facets;
    return {
      slug,
      title: document.title ?? title,
      collection,
      all: records,
      layout: document.layout ?? 'cards',
      card: this.#card(collection, document.card),
      // A facet that the tuning no longer has is left out, and comes back with it.
      facets: wanted ? wanted.flatMap((name) => facets.filter((facet) => facet.name === name)) : facets,
      sorts: tuning.sorts.map(({ name, label }) => ({ name, label })),
      pageSize: document.pageSize ?? PAGE_SIZE,
      paging: document.paging ?? 'pages',
      currency: document.currency ?? null,
      thing: document.thing ?? 'Thing',
      autocomplete: (document.autocomplete ?? usualSections(document.title ?? title)).flatMap((section) =>
        this.#section(section, slug, document),
      ),
      places: document.places ?? [],
      geo: tuning.geo,
      at: addressOf(slug),
    };
  }

  #find(slug: string): Row | undefined {
    return this.#db.select().from(interfaces).where(eq(interfaces.slug, slug)).get();
  }

  #card(collection: string, part: Partial<Card> | undefined): Card {
    return { ...this.#collections.card(collection), ...part };
  }

  /** One part of the autocomplete. One whose collection is gone is left out. */
  #section(section: SectionDocument, slug: string, document: InterfaceDocument): PageSection[] {
    const { from, label, size = ROWS, collection = document.collection } = section;
    if (from === 'past' || from === 'viewed') return [{ from, label, size }];
    if (!this.#collections.has(collection)) return [];
    const own = collection === document.collection;
    const other = own ? undefined : this.list().find((one) => one.document.collection === collection);
    const card = this.#card(collection, own ? document.card : other?.document.card);
    const page = own ? slug : (other?.slug ?? collection);
    return [{ from, label, size, collection, card, at: addressOf(page) }];
  }

  /** Throws a Failure for what the page could not be made of. */
  #check({ collection, facets = [], autocomplete = [] }: InterfaceDocument): void {
    const unknown = (pointer: string, name: string) => ({ pointer, detail: `there is no collection called “${name}”` });
    if (!this.#collections.has(collection)) throw invalid([unknown('/collection', collection)]);
    const known = completeTuning(this.#tunings.get(collection, 'live')).facets.map(({ name }) => name);
    const parts = [
      ...facets.flatMap((name, i) =>
        known.includes(name)
          ? []
          : [{ pointer: `/facets/${i}`, detail: `“${collection}” has no facet called “${name}”` }],
      ),
      ...autocomplete.flatMap((section, i) =>
        section.collection === undefined || this.#collections.has(section.collection)
          ? []
          : [unknown(`/autocomplete/${i}/collection`, section.collection)],
      ),
    ];
    if (parts.length > 0) throw invalid(parts);
  }
}

const addressOf = (slug: string): string => `/s/${slug}`;

const taken = (detail: string): Failure => new Failure('conflict', detail, [{ pointer: '/slug', detail: 'taken' }]);

const invalid = (parts: { pointer: string; detail: string }[]): Failure =>
  new Failure('invalid', parts.map(({ pointer, detail }) => `${pointer}: ${detail}`).join('; '), parts);

function present({ slug, document, createdAt, changedAt }: Row): Interface {
  return { slug, document: JSON.parse(document) as InterfaceDocument, createdAt, changedAt };
}

/** What a search field offers when nobody has said. */
function usualSections(title: string): SectionDocument[] {
  return [
    { from: 'past', label: 'Asked before' },
    { from: 'viewed', label: 'Looked at before' },
    { from: 'values', label: 'Go on with' },
    { from: 'records', label: title.slice(0, 80), size: 5 },
    { from: 'popular', label: 'Popular now', size: 5 },
  ];
}
