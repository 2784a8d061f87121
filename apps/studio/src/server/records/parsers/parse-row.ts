import { LIMITS } from '@yucca/contract';
import { jsonDepth } from '../../json-depth';

/** The value of a row that is JSON, or why it is none. What is nested too deeply is not read at all. */
export function parseRow(text: string): { value: unknown } | { error: string } {
  if (jsonDepth(text, LIMITS.jsonDepth) > LIMITS.jsonDepth)
    return { error: `the record is nested more than ${LIMITS.jsonDepth} levels deep` };
  try {
    return { value: JSON.parse(text) as unknown };
  } catch (error) {
    return { error: `not JSON: ${(error as Error).message}` };
  }
}
