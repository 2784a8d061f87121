import type { VisitorTrial } from '@yucca/contract';
import { counted } from '@/ui/format';

/** Where a trial stands, as a sentence or two. */
export function trialWords({ state, ended, endedAt, visits }: VisitorTrial): string {
  if (state === 'none')
    return 'Results of live and of the draft are mixed in one list; what visitors open shows which they prefer.';
  const of = `${counted(visits, 'visit')} opened what one side alone put there.`;
  if (state === 'running') return of;
  const why = {
    stopped: 'Stopped',
    published: 'Ended by a publish',
    unanswerable: 'Ended, because the index can no longer answer the draft as it was',
    full: 'Ended, because there were clicks enough',
  }[ended!];
  return `${why} on ${endedAt!.slice(0, 10)}: ${of}`;
}

/** How sure something is, never more than is known: 0.996 is “99% sure”. */
export const sureOf = (confidence: number): string =>
  confidence < 0.5 ? 'but that may well be chance' : `${Math.floor(confidence * 100)}% sure`;
