import { readFileSync } from 'node:fs';
import path from 'node:path';
import { promisify } from 'node:util';
import { gzip } from 'node:zlib';
import {
  completeTuning,
  percentDecoded,
  pick,
  valueAt,
  type SearchRequest,
  type Tuning,
  type TuningDocument,
} from '@yucca/contract';
import {
  eachField,
  parseFilter,
  PartedSegment,
  partSegment,
  planFor,
  search,
  SegmentBuilder,
  shownPart,
  Tombstones,
  type EngineAnswer,
  type IndexPlan,
} from '@yucca/engine';
import type { Db } from '../../db/open';
import { eachRecord } from '../../scan/each-record';

/** Records of a part are as many as make about this many bytes of JSON: a page of results reads a few parts. */
const PART_BYTES = 64 * 1024;
/** Pictures come along up to this many bytes in all. */
const MOST_PICTURE_BYTES = 64 * 1024 * 1024;

const packed = promisify(gzip);

/** What is asked for when a collection is packed. */
export interface PackJob {
  collectionId: number;
  /** Only these records; null = all. */
  filter: string | null;
  tuning: TuningDocument;
  /** Fields that pages show besides those that are searched. */
  shown: readonly string[];
  /** Conditions (CQL2-Text) that the page asks for besides: of badges, of chosen records. */
  conditions: readonly string[];
  /** The field with addresses of pictures; null = none. */
  picture: string | null;
  /** Records at most. */
  most: number;
  /** What the page asks first; null = it is not the page’s own collection. */
  first: SearchRequest | null;
}

/** A collection as files; see OfflineCollection. */
export interface PackedCollection {
  records: number;
  /** There are more records than may be; nothing else is there then. */
  tooMany: boolean;
  index: Uint8Array;
  parts: Uint8Array[];
  firstDocs: number[];
  first: EngineAnswer | null;
  /** Pictures of this server that its records name, by their paths. */
  pictures: [path: string, bytes: Uint8Array][];
  /** Some had no room. */
  picturesLeft: number;
}

const NOTHING = { index: new Uint8Array(0), parts: [], firstDocs: [], first: null, pictures: [], picturesLeft: 0 };

/**
 * Builds an index for a place without a server. A field that is neither searched, counted, sorted by nor shown leaves
 * no word in it; what the tuning hides is searched and never shown, as on the server.
 */
export async function packCollection(db: Db, dataDir: string, job: PackJob): Promise<PackedCollection> {
  const tuning = completeTuning(job.tuning);
  const plan = withColumns(planFor([tuning]), tuning, job.conditions);
  const { hide, snippets } = tuning;
  const searched = plan.allStrings ? ['*'] : plan.searchFields;
  const kept = [...searched, ...job.shown, ...snippets.map(({ field }) => field)];
  const ofColumns = [...plan.columns, ...(plan.ordering ?? []), ...plan.labels.map(({ labelField }) => labelField)];
  const indexed = [...kept, ...ofColumns, ...plan.geo];
  const builder = new SegmentBuilder(plan, {
    // What is hidden is searched by its words; as a value it stands nowhere.
    hasNoColumn: (path) => hide.some((hidden) => path === hidden || path.startsWith(`${hidden}.`)),
  });
  const pictures = new Set<string>();
  for (const { key, record } of eachRecord(db, job.collectionId, job.filter)) {
    if (builder.docs === job.most) return { ...NOTHING, records: job.most, tooMany: true };
    const whole = record();
    const shown = shownPart(pick(whole, kept), tuning.show, hide);
    const order = builder.docs + 1;
    builder.add({ versionId: order, order, key, json: JSON.stringify(shown), record: pick(whole, indexed) });
    const picture = job.picture === null ? undefined : valueAt(shown, job.picture);
    if (typeof picture === 'string' && picture.startsWith('/files/')) pictures.add(picture);
  }
  const form = partSegment(
    builder.finish((bytes) => new ArrayBuffer(bytes)),
    PART_BYTES,
  );
  const segment = new PartedSegment(form.index, form.firstDocs);
  form.parts.forEach((part, i) => segment.takePart(i, part));
  const dead = Tombstones.none(segment.docs, (bytes) => new ArrayBuffer(bytes));
  return {
    records: builder.docs,
    tooMany: false,
    index: await packed(form.index),
    parts: await Promise.all(form.parts.map((part) => packed(part))),
    firstDocs: form.firstDocs,
    first: job.first && search({ number: 1, segments: [{ segment, dead }] }, tuning, job.first),
    ...picturesOf(path.join(dataDir, 'files'), pictures),
  };
}

/** A plan with columns for what placements and the page ask for: there, texts need no look into the records. */
function withColumns(plan: IndexPlan, { placements }: Tuning, conditions: readonly string[]): IndexPlan {
  const columns = new Set(plan.columns);
  for (const condition of [...placements.flatMap(({ lift, sink }) => [...lift, ...sink]), ...conditions])
    eachField(parseFilter(condition), ({ path }) => columns.add(path));
  return { ...plan, columns: [...columns] };
}

/** Reads pictures as long as there is room for them. */
function picturesOf(folder: string, addresses: Iterable<string>): Pick<PackedCollection, 'pictures' | 'picturesLeft'> {
  const pictures: [string, Uint8Array][] = [];
  let bytes = 0;
  let picturesLeft = 0;
  for (const address of addresses) {
    const written = address.slice('/files/'.length);
    const below = percentDecoded(written) ?? written;
    const file = path.join(folder, below);
    const content = file.startsWith(folder + path.sep) && bytes < MOST_PICTURE_BYTES ? contentOf(file) : null;
    if (content === null || bytes + content.length > MOST_PICTURE_BYTES) picturesLeft++;
    else {
      bytes += content.length;
      pictures.push([below, content]);
    }
  }
  return { pictures, picturesLeft };
}

/** Null when there is no such file. */
function contentOf(file: string): Uint8Array | null {
  try {
    return readFileSync(file);
  } catch (error) {
    if (['ENOENT', 'ENOTDIR', 'EISDIR', 'ENAMETOOLONG'].includes((error as NodeJS.ErrnoException).code ?? ''))
      return null;
    throw error;
  }
}
