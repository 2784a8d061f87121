/** What a request may be before anything of it is looked at, and how long it may take. Bytes and milliseconds. */
export const FRONT = {
  /** All headers together, the request line included. */
  headerBytes: 64 * 1024,
  headers: 200,
  addressBytes: 32 * 1024,
  /** Until the headers have come. */
  headersMs: 15_000,
  /** Without a byte of a body. */
  bodyStallMs: 30_000,
  /** Until a body that is no load has come. */
  bodyMs: 60_000,
  /** Without a byte taken of an answer. */
  answerStallMs: 120_000,
  /** Without a request on a connection that is kept; longer than proxies keep theirs. */
  idleMs: 65_000,
  /** Until a page is there. */
  pageMs: 30_000,
  connections: 4_000,
  /** What is read and thrown away of the body of a request that was answered before its end, and for how long. */
  leftBytes: 32 * 1024 * 1024,
  leftMs: 10_000,
  /** The same for whoever has no business here. */
  refusedBytes: 64 * 1024,
  refusedMs: 2_000,
  /** Answers that run when the server is told to stop have so long to come to their end. */
  stopMs: 10_000,
  /** Answers from this size on are packed for whoever asks from elsewhere. */
  packFrom: 1_024,
} as const;
