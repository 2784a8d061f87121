import { FormatError } from './format-error';

/** Rows of a file that are read: they become JSON, which is many times as large. */
const MOST_ROWS = 1_000_000;

/**
 * Apache Parquet: its rows, with its own types; times as ISO 8601, bytes as text. `most`: of them, the first ones that
 * are wanted.
 */
export async function readParquet(bytes: Uint8Array, most = Infinity): Promise<{ value: unknown; rows: number }> {
  const [{ parquetMetadata, parquetReadObjects }, { gunzipSync }, { decompress }] = await Promise.all([
    import('hyparquet'),
    import('fflate'),
    import('fzstd'),
  ]);
  const file = bytes.slice().buffer;
  const metadata = parquetMetadata(file);
  const rows = Number(metadata.num_rows);
  if (rows > MOST_ROWS)
    throw new FormatError(
      `This Parquet file has ${rows.toLocaleString('en')} rows; up to ${MOST_ROWS.toLocaleString('en')} are read from one. Export it as CSV or JSON Lines; those may be of any size.`,
    );
  const found = await parquetReadObjects({
    file,
    metadata,
    ...(most < rows ? { rowEnd: most } : {}),
    // Snappy is the reader's own. None of these needs WebAssembly, which pages of the studio may not run.
    compressors: { GZIP: (packed) => gunzipSync(packed), ZSTD: (packed) => decompress(packed) },
  });
  return { value: found.map((row) => cleaned(row)), rows };
}

function cleaned(value: unknown): unknown {
  if (value instanceof Date) return dateText(value);
  if (value instanceof Uint8Array) return new TextDecoder().decode(value);
  if (Array.isArray(value)) return value.map(cleaned);
  if (value === null || typeof value !== 'object') return value;
  return Object.fromEntries(
    Object.entries(value).flatMap(([name, part]) =>
      part === null || part === undefined ? [] : [[name, cleaned(part)]],
    ),
  );
}

/** A moment as ISO 8601; without its time at midnight. */
export const dateText = (date: Date): string => date.toISOString().replace('T00:00:00.000Z', '');
