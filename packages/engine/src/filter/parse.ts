import { LIMITS } from '@yucca/contract';
import { parseDate } from '../columns/times.ts';
import { FilterError, readTokens, type FilterToken } from './lexer.ts';

export type Comparison = '=' | '<>' | '<' | '<=' | '>' | '>=';

/** A value to compare with. Instants are milliseconds; `day` says that only a date was written. */
export type Literal =
  | { type: 'text'; value: string }
  | { type: 'number'; value: number }
  | { type: 'boolean'; value: boolean }
  | { type: 'instant'; value: number; day: boolean };

export interface FieldName {
  path: string;
  line: number;
  column: number;
}

/** A condition as a tree. */
export type Condition =
  | { op: 'and' | 'or'; parts: Condition[] }
  | { op: 'not'; part: Condition }
  | { op: 'constant'; value: boolean }
  | { op: 'compare'; field: FieldName; comparison: Comparison; value: Literal }
  | { op: 'between'; field: FieldName; low: Literal; high: Literal }
  | { op: 'in'; field: FieldName; values: Literal[] }
  | { op: 'like'; field: FieldName; pattern: string }
  | { op: 'isNull'; field: FieldName };

const MIRRORED: Record<Comparison, Comparison> = { '=': '=', '<>': '<>', '<': '>', '<=': '>=', '>': '<', '>=': '<=' };
const KEYWORDS = new Set(['AND', 'OR', 'NOT', 'IN', 'LIKE', 'BETWEEN', 'IS', 'NULL', 'TRUE', 'FALSE']);

/**
 * Reads a condition in CQL2-Text (OGC 21-065r2, its basic part with LIKE, BETWEEN, IN). Recursive descent, one token
 * ahead: OR binds least, then AND, then NOT. Throws a FilterError.
 */
export function parseFilter(source: string): Condition {
  if (source.length > LIMITS.filterLength) {
    throw new FilterError(`the condition is longer than ${LIMITS.filterLength} characters`, 1, 1);
  }
  return new FilterParser(readTokens(source)).parse();
}

class FilterParser {
  readonly #tokens: FilterToken[];
  #at = 0;
  #levels = 0;

  constructor(tokens: FilterToken[]) {
    this.#tokens = tokens;
  }

  parse(): Condition {
    if (this.#atEnd()) this.#fail('a condition is expected');
    const condition = this.#or();
    if (!this.#atEnd()) this.#fail(`AND, OR or the end is expected, not “${this.#next.text}”`);
    return condition;
  }

  #atEnd(): boolean {
    return this.#next.kind === 'end';
  }

  get #next(): FilterToken {
    return this.#tokens[this.#at]!;
  }

  #fail(detail: string, { line, column } = this.#next): never {
    throw new FilterError(detail, line, column);
  }

  #take(): FilterToken {
    return this.#tokens[this.#at++]!;
  }

  #takeKeyword(keyword: string): boolean {
    if (this.#next.keyword !== keyword) return false;
    this.#at++;
    return true;
  }

  #takeSymbol(symbol: string): boolean {
    if (this.#next.kind !== 'symbol' || this.#next.text !== symbol) return false;
    this.#at++;
    return true;
  }

  #expectSymbol(symbol: string): void {
    if (!this.#takeSymbol(symbol)) this.#fail(`“${symbol}” is expected, not “${this.#next.text}”`);
  }

  #or(): Condition {
    const parts = [this.#and()];
    while (this.#takeKeyword('OR')) parts.push(this.#and());
    return parts.length === 1 ? parts[0]! : { op: 'or', parts };
  }

  #and(): Condition {
    const parts = [this.#not()];
    while (this.#takeKeyword('AND')) parts.push(this.#not());
    return parts.length === 1 ? parts[0]! : { op: 'and', parts };
  }

  #not(): Condition {
    const start = this.#next;
    if (!this.#takeKeyword('NOT')) return this.#primary();
    this.#descend(start);
    const part = this.#not();
    this.#levels--;
    return { op: 'not', part };
  }

  #descend(token: FilterToken): void {
    if (++this.#levels > LIMITS.filterLevels)
      this.#fail(`the condition is nested more than ${LIMITS.filterLevels} deep`, token);
  }

  #primary(): Condition {
    const start = this.#next;
    if (this.#takeSymbol('(')) {
      this.#descend(start);
      const inner = this.#or();
      this.#expectSymbol(')');
      this.#levels--;
      return inner;
    }
    if (start.kind === 'word' && (start.keyword === 'TRUE' || start.keyword === 'FALSE')) {
      this.#at++;
      if (!this.#isComparison()) return { op: 'constant', value: start.keyword === 'TRUE' };
      this.#at--;
    }
    if (this.#atLiteral()) return this.#mirrored();
    return this.#predicate(this.#field());
  }

  #isComparison(): boolean {
    return this.#next.kind === 'symbol' && this.#next.text in MIRRORED;
  }

  /** `10 < price`: the value first. */
  #mirrored(): Condition {
    const value = this.#literal();
    const comparison = this.#comparison();
    return { op: 'compare', field: this.#field(), comparison: MIRRORED[comparison], value };
  }

  #predicate(field: FieldName): Condition {
    if (this.#takeKeyword('IS')) {
      const negated = this.#takeKeyword('NOT');
      if (!this.#takeKeyword('NULL')) this.#fail('NULL is expected');
      return negate({ op: 'isNull', field }, negated);
    }
    const negated = this.#takeKeyword('NOT');
    if (this.#takeKeyword('BETWEEN')) {
      const low = this.#literal();
      if (!this.#takeKeyword('AND')) this.#fail('AND and the upper end are expected');
      return negate({ op: 'between', field, low, high: this.#literal() }, negated);
    }
    if (this.#takeKeyword('IN')) {
      this.#expectSymbol('(');
      const values = [this.#literal()];
      while (this.#takeSymbol(',')) values.push(this.#literal());
      this.#expectSymbol(')');
      return negate({ op: 'in', field, values }, negated);
    }
    if (this.#takeKeyword('LIKE')) {
      if (this.#next.kind !== 'string') this.#fail("LIKE needs a pattern in quotes, such as 'Lav%'");
      return negate({ op: 'like', field, pattern: this.#take().text }, negated);
    }
    if (negated) this.#fail('BETWEEN, IN or LIKE is expected after NOT');
    const comparison = this.#comparison();
    return { op: 'compare', field, comparison, value: this.#literal() };
  }

  #comparison(): Comparison {
    if (!this.#isComparison()) {
      this.#fail(`a comparison such as =, <, IN or IS NULL is expected, not “${this.#next.text}”`);
    }
    return this.#take().text as Comparison;
  }

  #field(): FieldName {
    const token = this.#next;
    if (token.kind !== 'quoted' && (token.kind !== 'word' || KEYWORDS.has(token.keyword))) {
      this.#fail(`a field is expected, not “${token.text}”`);
    }
    this.#at++;
    return { path: token.text, line: token.line, column: token.column };
  }

  #atLiteral(): boolean {
    const { kind, keyword } = this.#next;
    if (kind === 'string' || kind === 'number' || keyword === 'TRUE' || keyword === 'FALSE') return true;
    return (keyword === 'DATE' || keyword === 'TIMESTAMP') && this.#tokens[this.#at + 1]!.text === '(';
  }

  #literal(): Literal {
    if (!this.#atLiteral()) {
      const hint = this.#next.kind === 'word' || this.#next.kind === 'quoted' ? '; put text in single quotes' : '';
      this.#fail(`a value is expected, not “${this.#next.text}”${hint}`);
    }
    const token = this.#take();
    if (token.kind === 'string') return { type: 'text', value: token.text };
    if (token.kind === 'number') return { type: 'number', value: Number(token.text) };
    if (token.keyword === 'TRUE' || token.keyword === 'FALSE')
      return { type: 'boolean', value: token.keyword === 'TRUE' };
    this.#expectSymbol('(');
    const text = this.#next;
    if (text.kind !== 'string') this.#fail(`${token.keyword} needs a date in quotes`);
    this.#at++;
    this.#expectSymbol(')');
    const value = parseDate(text.text);
    if (Number.isNaN(value)) this.#fail(`“${text.text}” is not a date; write it like 2026-05-01`, text);
    return { type: 'instant', value, day: token.keyword === 'DATE' };
  }
}

function negate(condition: Condition, negated: boolean): Condition {
  return negated ? { op: 'not', part: condition } : condition;
}

/** Visits every field a condition names. */
export function eachField(condition: Condition, visit: (field: FieldName) => void): void {
  switch (condition.op) {
    case 'and':
    case 'or':
      condition.parts.forEach((part) => eachField(part, visit));
      break;
    case 'not':
      eachField(condition.part, visit);
      break;
    case 'constant':
      break;
    default:
      visit(condition.field);
  }
}
