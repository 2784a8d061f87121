/** Starts the back office: `main.ts <address of Yucca> <data folder> <port>`, with the admin key in YUCCA_ADMIN_KEY. */
import { startBackOffice } from './server.ts';

const [yucca = 'http://127.0.0.1:4310', dataDir = 'data', port = '4391'] = process.argv.slice(2);
const adminKey = process.env.YUCCA_ADMIN_KEY ?? '';
const { address, close } = await startBackOffice({ dataDir, yucca, adminKey, port: Number(port) });
process.stdout.write(`The back office is at ${address}\n`);
for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.once(signal, () => void close().then(() => process.exit(0)));
