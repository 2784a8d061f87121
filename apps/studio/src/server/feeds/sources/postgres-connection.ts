/** Connections to PostgreSQL servers, to the address that was checked. */
import type { PostgresSource } from '@yucca/contract';
import { lookup } from 'node:dns/promises';
import { isIP } from 'node:net';
import pg from 'pg';
import { isNamed, isPublic } from '../outside/allowed-hosts';
import { SourceError } from '../outside/source-error';

/** Values as JSON has them: exact numbers as numbers, times with their zone, bytes as base64. */
const types: pg.CustomTypesConfig = {
  getTypeParser: ((oid: number, format: 'text' | 'binary') => {
    const parsers: Record<number, (text: string) => unknown> = {
      [pg.types.builtins.NUMERIC]: numberIfExact,
      [pg.types.builtins.INT8]: numberIfExact,
      [pg.types.builtins.DATE]: (text) => text,
      [pg.types.builtins.TIMESTAMP]: (text) => `${text.replace(' ', 'T')}Z`,
    };
    return parsers[oid] ?? (pg.types.getTypeParser(oid, format) as (text: string) => unknown);
  }) as pg.CustomTypesConfig['getTypeParser'],
};

/** A number that JSON holds exactly; as text where it does not. */
function numberIfExact(text: string): number | string {
  const digits = text.replace(/[-.]/g, '').replace(/^0+/, '').length;
  const value = Number(text);
  return digits <= 15 && Number.isFinite(value) ? value : text;
}

/** A connection. The address that was checked is the one that is connected to. Throws a SourceError. */
export async function connected(source: PostgresSource, replication = false): Promise<pg.Client> {
  const { host, port = 5432, database, user, password, ssl = false, timeoutS = 30 } = source;
  const timeout = timeoutS * 1_000;
  const client = new pg.Client({
    host: await addressOf(host, port, source.allowPrivate ?? []),
    port,
    database,
    user,
    ...(typeof password === 'string' && { password }),
    // The certificate is for the name, not for the address.
    ssl: ssl ? { servername: host } : false,
    types,
    connectionTimeoutMillis: timeout,
    query_timeout: timeout * 2,
    application_name: 'Yucca',
    ...(replication ? ({ replication: 'database' } as object) : { statement_timeout: timeout }),
  });
  // A connection that breaks between two questions is told by the next one.
  client.on('error', () => {});
  try {
    await client.connect();
    // A row is written as text to be hashed: the same in every session.
    if (!replication) await client.query("set timezone = 'UTC'; set datestyle = 'ISO'; set extra_float_digits = 1");
    return client;
  } catch (error) {
    await client.end().catch(() => {});
    throw asSourceError(error, source);
  }
}

async function addressOf(host: string, port: number, allowed: readonly string[]): Promise<string> {
  if (/[/\\\s]/.test(host)) throw new SourceError(`“${host}” is no host.`, { isLasting: true });
  const found = isIP(host) > 0 ? [{ address: host }] : await lookup(host, { all: true }).catch(() => []);
  if (found.length === 0) throw new SourceError(`${host} has no address.`);
  const open = isNamed(host, port, allowed) ? found : found.filter(({ address }) => isPublic(address));
  if (open.length === 0)
    throw new SourceError(`${host} is in a private network. Allow ${host}:${port} by name if it is meant.`);
  return open[0]!.address;
}

/** What a server or its connection said, as what a source says; anything else as it is. */
export function asSourceError(error: unknown, { host }: PostgresSource): unknown {
  const { name, code, message } = error as { name: string; code?: string; message: string };
  if (name === 'SourceError') return error;
  // Of the server (five letters), of the system, or of the connection.
  if (code !== undefined || /^(Connection|Query|timeout)/i.test(message))
    return new SourceError(`PostgreSQL at ${host}: ${message}.`);
  return error;
}
