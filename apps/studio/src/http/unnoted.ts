import type { Incoming } from './incoming';

/** What programs call themselves that go through pages by themselves. Looked at, and never kept. */
const MACHINES = /bot\b|crawl|spider|slurp|headless|preview|monitor/i;

/**
 * Whether a search stays out of insights: its browser asks not to be followed (Do Not Track; Global Privacy Control),
 * or it is no browser.
 */
export const asksNotToBeNoted = (headers: Incoming['headers']): boolean =>
  headers.get('dnt') === '1' || headers.get('sec-gpc') === '1' || MACHINES.test(headers.get('user-agent') ?? '');
