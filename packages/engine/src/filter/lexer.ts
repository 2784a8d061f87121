/** A condition that cannot be read or makes no sense, with where: line and column count from 1. */
export class FilterError extends Error {
  override name = 'FilterError';
  readonly line: number;
  readonly column: number;

  constructor(detail: string, line: number, column: number) {
    super(`${detail} at ${line}:${column}`);
    this.line = line;
    this.column = column;
  }
}

export interface FilterToken {
  kind: 'word' | 'quoted' | 'string' | 'number' | 'symbol' | 'end';
  /** As it counts: a keyword in capitals is in `keyword`, a string without its quotes. */
  text: string;
  /** Of a bare word: in capitals, to compare with keywords. */
  keyword: string;
  line: number;
  column: number;
}

const SPACE = /\s+/y;
const NUMBER = /[+-]?(\d+(\.\d*)?|\.\d+)([eE][+-]?\d+)?/y;
const STRING = /'((?:[^']|'')*)'/y;
const QUOTED = /"((?:[^"]|"")*)"/y;
const WORD = /[\p{L}_][\p{L}\p{N}\p{M}_.:-]*/uy;
const SYMBOL = /<>|<=|>=|[=<>(),]/y;

/** Cuts a CQL2-Text condition into tokens. Throws a FilterError at what is none. */
export function readTokens(source: string): FilterToken[] {
  const tokens: FilterToken[] = [];
  let at = 0;
  let line = 1;
  let lineStart = 0;
  const here = (): { line: number; column: number } => ({ line, column: at - lineStart + 1 });
  const match = (pattern: RegExp): RegExpExecArray | null => {
    pattern.lastIndex = at;
    return pattern.exec(source);
  };
  const advance = (text: string): void => {
    for (let i = 0; i < text.length; i++) {
      if (text[i] === '\n') {
        line++;
        lineStart = at + i + 1;
      }
    }
    at += text.length;
  };
  while (at < source.length) {
    const space = match(SPACE);
    if (space) {
      advance(space[0]);
      continue;
    }
    const token = readToken(match, here());
    if (token === null) {
      const { line: l, column } = here();
      const char = String.fromCodePoint(source.codePointAt(at)!);
      const unclosed = char === "'" || char === '"' ? `the text that begins with ${char} is not closed` : null;
      throw new FilterError(unclosed ?? `“${char}” means nothing here`, l, column);
    }
    tokens.push(token.token);
    advance(token.source);
  }
  tokens.push({ kind: 'end', text: 'the end', keyword: '', ...here() });
  return tokens;
}

function readToken(
  match: (pattern: RegExp) => RegExpExecArray | null,
  at: { line: number; column: number },
): { token: FilterToken; source: string } | null {
  const kinds: [FilterToken['kind'], RegExp, (found: RegExpExecArray) => string][] = [
    ['number', NUMBER, ([text]) => text],
    ['string', STRING, (found) => found[1]!.replaceAll("''", "'")],
    ['quoted', QUOTED, (found) => found[1]!.replaceAll('""', '"')],
    ['word', WORD, ([text]) => text],
    ['symbol', SYMBOL, ([text]) => text],
  ];
  for (const [kind, pattern, textOf] of kinds) {
    const found = match(pattern);
    if (!found) continue;
    const text = textOf(found);
    return { token: { kind, text, keyword: kind === 'word' ? text.toUpperCase() : '', ...at }, source: found[0] };
  }
  return null;
}
