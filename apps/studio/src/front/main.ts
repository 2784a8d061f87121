/** Starts a built Yucca: the database and its threads, the front server, and behind it the framework for the pages. */
import next from 'next';
import { runtime } from '@/server/runtime';
import routes from 'yucca:routes';
import { FrontServer } from './front-server';
import { exitOver } from './start-errors';

const port = Number(process.env.PORT ?? 4310);
const host = process.env.YUCCA_HOST ?? '127.0.0.1';
const dir = process.env.YUCCA_STUDIO_DIR ?? process.cwd();

try {
  const yucca = runtime();
  // A mistake somewhere must not end what everybody else is doing.
  process.on('uncaughtException', (error) => yucca.log.error({ error: error.stack ?? error.message }, 'uncaught'));
  process.on('unhandledRejection', (error) => yucca.log.error({ error: String(error) }, 'unhandled'));
  const app = next({ dev: false, dir, hostname: host, port, quiet: true });
  await app.prepare();
  const handle = app.getRequestHandler();
  const front = new FrontServer({
    yucca,
    routes,
    pages: (request, response) => handle(request, response),
    accessLog: process.env.YUCCA_ACCESS_LOG === 'on',
  });
  await front.listen(port, host);
  let stopping = false;
  const stop = (): void => {
    if (stopping) return;
    stopping = true;
    void front
      .stop()
      .then(() => yucca.close())
      .then(
        () => process.exit(0),
        (error: Error) => {
          yucca.log.error({ error: error.message }, 'the stop did not go well');
          process.exit(1);
        },
      );
  };
  for (const signal of ['SIGTERM', 'SIGINT'] as const) process.on(signal, stop);
} catch (error) {
  exitOver(error);
}
