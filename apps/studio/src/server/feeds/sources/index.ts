import type { PulledSource } from '@yucca/contract';
import { folder } from './folder';
import { poll } from './poll';
import { postgres } from './postgres';
import type { SourceReader } from './source';
import { sqlite } from './sqlite';

/** The kinds of sources that are asked. A new one is a reader, and a line here. */
export const READERS: { readonly [K in PulledSource['kind']]: SourceReader<Extract<PulledSource, { kind: K }>> } = {
  poll,
  folder,
  sqlite,
  postgres,
};
