import type { SynonymGroup } from '@yucca/contract';
import { JsonLdParser } from 'jsonld-streaming-parser';
import { DataFactory, Parser, Store, Writer, type NamedNode, type Quad, type Term } from 'n3';
import { RdfXmlParser } from 'rdfxml-streaming-parser';
import { Failure } from '../failure';
import { oneWayGroup, sameGroup, type ParsedSynonyms } from './parsed-synonyms';

const SKOS = 'http://www.w3.org/2004/02/skos/core#';
const RDF_TYPE = 'http://www.w3.org/1999/02/22-rdf-syntax-ns#type';
const { namedNode, literal, quad } = DataFactory;
const skos = (name: string) => namedNode(SKOS + name);

/** The forms of RDF that are read. */
export type RdfType = 'text/turtle' | 'application/rdf+xml' | 'application/ld+json';

const BASE = 'urn:yucca:synonyms:';

/**
 * Synonyms from a SKOS vocabulary (W3C, 2009). The preferred and alternative labels of a concept mean the same; its
 * hidden labels, which SKOS keeps for misspellings, find it and are not found by it; and a concept finds its narrower
 * ones. Throws a Failure that says where the file cannot be read.
 */
export async function synonymsFromSkos(text: string, type: RdfType): Promise<ParsedSynonyms> {
  const store = new Store();
  try {
    store.addQuads(await quadsOf(text, type));
  } catch (error) {
    throw new Failure('unreadable', `The ${NAMES[type]} cannot be read: ${(error as Error).message}`);
  }
  const labels = (concept: Term, ...names: string[]): string[] =>
    names.flatMap((name) => store.getObjects(concept, skos(name), null).map(({ value }) => value));
  const concepts = new Map<string, Term>();
  for (const name of ['prefLabel', 'altLabel', 'hiddenLabel'])
    for (const subject of store.getSubjects(skos(name), null, null)) concepts.set(subject.value, subject);
  const groups: SynonymGroup[] = [];
  const ignored: string[] = [];
  for (const concept of concepts.values()) {
    const shown = labels(concept, 'prefLabel', 'altLabel');
    const narrower = [
      ...store.getObjects(concept, skos('narrower'), null),
      ...store.getSubjects(skos('broader'), concept, null),
    ];
    const below = [...new Set(narrower.flatMap((one) => labels(one, 'prefLabel')))];
    const found = [
      sameGroup(shown),
      oneWayGroup(labels(concept, 'hiddenLabel'), labels(concept, 'prefLabel')),
      oneWayGroup(shown, below),
    ].filter((group) => group !== null);
    groups.push(...found);
    // What only stands below another is told by that one.
    const isBelow = store.countQuads(concept, skos('broader'), null, null) + store.countQuads(null, skos('narrower'), concept, null) > 0; // prettier-ignore
    if (found.length === 0 && !isBelow) ignored.push(`“${shown[0] ?? concept.value}” has no other label.`);
  }
  return { groups, ignored };
}

const NAMES: Record<RdfType, string> = {
  'text/turtle': 'Turtle',
  'application/rdf+xml': 'RDF/XML',
  'application/ld+json': 'JSON-LD',
};

async function quadsOf(text: string, type: RdfType): Promise<Quad[]> {
  if (type === 'text/turtle') return new Parser({ baseIRI: BASE }).parse(text);
  const parser =
    type === 'application/rdf+xml'
      ? new RdfXmlParser({ baseIRI: BASE })
      : new JsonLdParser({ baseIRI: BASE, documentLoader: { load: refuseContext } });
  const quads: Quad[] = [];
  await new Promise<void>((resolve, reject) => {
    parser.on('data', (one: unknown) => quads.push(one as Quad));
    parser.on('error', reject);
    parser.on('end', resolve);
    parser.end(text);
  });
  return quads;
}

/** Nothing is fetched because of a file. */
function refuseContext(url: string): Promise<never> {
  return Promise.reject(new Error(`its context lies at ${url}; write it into the file`));
}

/**
 * The groups as a SKOS vocabulary: a concept for each, with the words that mean the same as its labels. What leads one
 * way to one word is a hidden label of it; what leads to several, a concept with narrower ones.
 */
function quadsFor(groups: readonly SynonymGroup[], language: string): Quad[] {
  const quads: Quad[] = [];
  let concepts = 0;
  const concept = ([preferred, ...others]: readonly string[], hidden: readonly string[] = []): NamedNode => {
    const node: NamedNode = namedNode(`${BASE}${++concepts}`);
    quads.push(quad(node, namedNode(RDF_TYPE), skos('Concept')));
    quads.push(quad(node, skos('prefLabel'), literal(preferred!, language)));
    for (const other of others) quads.push(quad(node, skos('altLabel'), literal(other, language)));
    for (const other of hidden) quads.push(quad(node, skos('hiddenLabel'), literal(other, language)));
    return node;
  };
  for (const group of groups) {
    if (group.kind === 'same') concept(group.words);
    else if (group.to.length === 1) concept(group.to, group.from);
    else {
      const below = group.to.map((to) => concept([to]));
      for (const from of group.from) {
        const above = concept([from]);
        for (const one of below) quads.push(quad(above, skos('narrower'), one));
      }
    }
  }
  return quads;
}

/** As Turtle (W3C, 2014). `language` is the BCP 47 tag of the labels. */
export function synonymsToTurtle(groups: readonly SynonymGroup[], language: string): Promise<string> {
  const writer = new Writer({ prefixes: { skos: SKOS } });
  writer.addQuads(quadsFor(groups, language));
  return new Promise((resolve, reject) => {
    writer.end((error: Error | null, text: string) => (error ? reject(error) : resolve(text)));
  });
}
