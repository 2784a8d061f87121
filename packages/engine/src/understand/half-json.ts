import { parsedJson } from '@yucca/contract';

/**
 * What can be told of a JSON text of which only the beginning is there: it is cut behind the last value that is whole,
 * and what is open there is closed. Undefined when that makes no sense either.
 */
export function halfJson(text: string): unknown {
  const whole = parsedJson(text);
  if (whole !== undefined) return whole;
  const open: string[] = [];
  // Whatever closes something is an end, so that behind the last one brackets only open.
  let [end, depth] = [0, 0];
  let [inString, escaped] = [false, false];
  for (let at = 0; at < text.length; at++) {
    const letter = text[at]!;
    if (inString) {
      if (escaped) escaped = false;
      else if (letter === '\\') escaped = true;
      else if (letter === '"') inString = false;
    } else if (letter === '"') inString = true;
    else if (letter === '{' || letter === '[') open.push(letter === '{' ? '}' : ']');
    else if (letter === '}' || letter === ']') {
      open.pop();
      [end, depth] = [at + 1, open.length];
    } else if (letter === ',') [end, depth] = [at, open.length];
  }
  return end === 0 ? undefined : parsedJson(text.slice(0, end) + open.slice(0, depth).reverse().join(''));
}
