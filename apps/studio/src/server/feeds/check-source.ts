import type { FeedMapping, FeedSource, ProblemPart } from '@yucca/contract';
import { Failure } from '../failure';
import { checkedUrl } from './outside/guarded-get';
import { SourceError } from './outside/source-error';
import { isCron } from './schedule';

/** Checks a source beyond its schema. Throws a Failure with pointers. */
export function checkSource(source: FeedSource): void {
  const parts: ProblemPart[] = [];
  if (source.kind === 'poll') parts.push(...badUrl(source.url));
  if (source.kind !== 'webhook') {
    const { cron, everyS } = source;
    if (cron !== undefined && everyS !== undefined) parts.push({ pointer: '/source/cron', detail: 'stands beside everyS: name one of them' }); // prettier-ignore
    if (cron !== undefined && !isCron(cron)) parts.push({ pointer: '/source/cron', detail: 'is no cron expression, or one that never comes to pass' }); // prettier-ignore
  }
  if (source.kind === 'sqlite' || source.kind === 'postgres') {
    const { table, query } = source;
    const logs = source.kind === 'sqlite' ? source.log : source.follow;
    if (table === undefined && query === undefined) parts.push({ pointer: '/source/table', detail: 'is missing: name a table or a query' }); // prettier-ignore
    if (source.kind === 'sqlite' && table !== undefined && query !== undefined) parts.push({ pointer: '/source/query', detail: 'stands beside table: name one of them' }); // prettier-ignore
    if (logs && table === undefined) parts.push({ pointer: '/source/table', detail: 'must name the table whose changes are followed' }); // prettier-ignore
    if (logs && source.changed !== undefined) parts.push({ pointer: '/source/changed', detail: 'is not needed: every change is followed' }); // prettier-ignore
  }
  if (parts.length > 0) throw new Failure('invalid', parts.map(({ pointer, detail }) => `${pointer} ${detail}`).join('; '), parts); // prettier-ignore
}

function badUrl(url: string): ProblemPart[] {
  try {
    checkedUrl(url);
    return [];
  } catch (error) {
    if (!(error instanceof SourceError)) throw error;
    return [{ pointer: '/source/url', detail: error.message.replace(/\.$/, '') }];
  }
}

/** Checks that the steps of a mapping fit together. Throws a Failure with pointers. */
export function checkMapping(mapping: FeedMapping): void {
  const parts = mapping.flatMap(({ field, from, value }, i): ProblemPart[] => {
    const at = (detail: string): ProblemPart[] => [{ pointer: `/mapping/${i}`, detail }];
    if (mapping.findIndex((one) => one.field === field) < i) return at(`“${field}” is made twice`);
    if (field === '*')
      return from === undefined && value === undefined ? [] : at('“*” keeps what came, and takes nothing else');
    if (from === undefined && value === undefined) return at('needs `from` or `value`');
    return from !== undefined && value !== undefined ? at('has `from` and `value`: name one of them') : [];
  });
  if (parts.length > 0) throw new Failure('invalid', parts.map(({ pointer, detail }) => `${pointer} ${detail}`).join('; '), parts); // prettier-ignore
}
