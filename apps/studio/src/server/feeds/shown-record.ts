import type { FeedPreviewAnswer, RecordJson } from '@yucca/contract';
import { RecordError } from '../records/record-store';
import type { Lookup } from './lookup-in';
import { mapRecord, type Mapping } from './mapping';

/** Records of a preview. */
export const SHOWN = 10;

/** A record of a preview: as it came, and as a mapping would have it, or why not. */
export function shownRecord(json: string, mapping: Mapping, lookup: Lookup): FeedPreviewAnswer['records'][0] {
  const before = JSON.parse(json) as RecordJson;
  try {
    return { before, after: mapRecord(before, mapping, lookup), problem: null };
  } catch (error) {
    if (!(error instanceof RecordError)) throw error;
    return { before, after: null, problem: `${error.message}.` };
  }
}
