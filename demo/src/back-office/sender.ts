/** Tells Yucca each change, signed, until it has taken it; with the trouble of a real line on demand. */
import { Webhook } from 'standardwebhooks';
import type { Store, Waiting } from './store.ts';

export interface Sending {
  /** Of the feed's events. */
  address: string;
  secret: string;
  chance?: () => number;
}

const AT_ONCE = 40;
const EVERY_MS = 100;
const LONGEST_MS = 30_000;
/** What `fetch` throws when nobody answers, or too late. */
const LINE_ERRORS = new Set(['TypeError', 'TimeoutError', 'AbortError']);

/** Sends what is due, now and from now on; the function it returns ends that. */
export function startSending(store: Store, sending: Sending): () => Promise<void> {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let ended = false;
  let round = Promise.resolve();
  const go = (): void => {
    round = sendDue(store, sending)
      .catch((error: Error) => process.stderr.write(`The back office could not send: ${error.message}\n`))
      .then(() => {
        if (!ended) timer = setTimeout(go, EVERY_MS);
      });
  };
  go();
  return async () => {
    ended = true;
    clearTimeout(timer);
    await round;
  };
}

/** Sends what is due once. */
export async function sendDue(store: Store, { address, secret, chance = Math.random }: Sending): Promise<void> {
  const { lose, repeat, reorder, delayMs, stopped } = store.trouble;
  if (stopped) return;
  await Promise.all(
    store.due(Date.now(), AT_ONCE).map(async (one) => {
      if (one.tries === 0 && chance() < reorder) return store.later(one.number, Date.now() + chance() * 2_000);
      if (one.tries === 0 && delayMs > 0) return store.later(one.number, Date.now() + chance() * delayMs);
      // Lost on the way: the back office believes that it was taken.
      if (chance() < lose) return store.told(one.number);
      const status = await send(address, secret, one);
      if (status === 'again') return store.later(one.number, Date.now() + pause(one.tries, chance));
      if (chance() < repeat) await send(address, secret, one);
      store.told(one.number);
    }),
  );
}

/** Twice as long with each try, and a little by chance, so that many do not come back at once. */
const pause = (tries: number, chance: () => number): number =>
  Math.min(LONGEST_MS, 250 * 2 ** Math.min(tries, 10)) * (0.5 + chance());

async function send(address: string, secret: string, { event }: Waiting): Promise<'taken' | 'refused' | 'again'> {
  const { id } = JSON.parse(event) as { id: string };
  const now = new Date();
  try {
    const answer = await fetch(address, {
      method: 'POST',
      headers: {
        'Content-Type': 'application/cloudevents+json',
        'webhook-id': id,
        'webhook-timestamp': String(Math.floor(now.getTime() / 1_000)),
        'webhook-signature': new Webhook(secret).sign(id, now, event),
      },
      body: event,
      signal: AbortSignal.timeout(10_000),
    });
    if (answer.ok) return 'taken';
    if (answer.status >= 500 || answer.status === 429) return 'again';
    process.stderr.write(`Yucca refused ${id}: ${await answer.text()}\n`);
    return 'refused';
  } catch (error) {
    // The event stays, and is told later.
    if (LINE_ERRORS.has((error as Error).name)) return 'again';
    throw error;
  }
}
