import type { Feed, FeedDrift, FeedEvent, FeedRepair } from '@yucca/contract';
import { counted, duration, moment } from '@/ui/format';

/** How a feed does, in a few words. */
export function stateWords({ state, lagS, dead, early, run, source, drift: found }: Feed): string {
  const drift = found === null ? 0 : found.missing + found.different + found.extra;
  const parts = [
    state === 'paused'
      ? 'Paused'
      : state === 'failing'
        ? 'Failing'
        : run?.state === 'asking'
          ? 'Waits for an answer'
          : run?.state === 'running'
            ? 'Reading'
            : source.kind !== 'webhook' && run === null
              ? 'Not asked yet'
              : lagS > 1
                ? `${duration(lagS)} behind`
                : 'In step',
    ...(dead > 0
      ? [source.kind === 'webhook' ? `${counted(dead, 'event')} not applied` : `${counted(dead, 'record')} not stored`]
      : []),
    ...(drift > 0 ? [`${counted(drift, 'record')} not as the source has them`] : []),
    ...(early > 0 ? [`${counted(early, 'change')} waiting for a record`] : []),
  ];
  return parts.join(' · ');
}

export const lastWords = ({ lastEventAt, source }: Feed): string =>
  lastEventAt === null
    ? 'Nothing has come yet'
    : `${source.kind === 'webhook' ? 'Last event' : 'Last read'} ${moment(lastEventAt)}`;

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

/** What a comparison that nobody asked for has found, as a sentence. */
export function driftWords({ at, missing, different, extra }: FeedDrift): string {
  const found = missing + different + extra;
  const what = found === 0 ? 'nothing differs' : `${missing} missing, ${different} different, ${extra} too many`;
  return `By itself, ${moment(at)}: ${what}.`;
}
