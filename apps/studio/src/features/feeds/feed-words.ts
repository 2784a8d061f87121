import type { Feed, FeedEvent, FeedRepair } from '@yucca/contract';
import { counted, duration, moment } from '@/ui/format';

/** How a feed does, in a few words. */
export function stateWords({ state, lagS, dead, early }: Feed): string {
  const parts = [
    state === 'paused' ? 'Paused' : lagS > 1 ? `${duration(lagS)} behind` : 'In step',
    ...(dead > 0 ? [`${counted(dead, 'event')} not applied`] : []),
    ...(early > 0 ? [`${counted(early, 'change')} waiting for a record`] : []),
  ];
  return parts.join(' · ');
}

export const lastWords = ({ lastEventAt }: Feed): string =>
  lastEventAt === null ? 'Nothing has come yet' : `Last event ${moment(lastEventAt)}`;

/** What became of an event. */
export const BECAME: Readonly<Record<FeedEvent['state'], string>> = {
  applied: 'applied',
  waiting: 'waits: the feed is paused',
  early: 'waits for its record',
  old: 'older than what is applied',
  dead: 'not applied',
};

export const DOES: Readonly<Record<FeedEvent['action'], string>> = {
  upsert: 'whole record',
  patch: 'change',
  delete: 'deletion',
};

/** What a repair did, as a sentence. */
export function repairWords({ written, deleted, left, asks }: FeedRepair): string {
  const kept = left > 0 ? ` ${counted(left, 'record')} changed since the file was made and were left alone.` : '';
  if (asks !== null) return `Nothing was deleted yet: that would be ${counted(asks, 'record')}.${kept}`;
  return `${counted(written, 'record')} written, ${deleted} deleted.${kept}`;
}
