import type { PlacementDocument } from '@yucca/contract';
import { CONDITIONS } from './placement-conditions';

/** A placement as it stands in the fields of a form. Lists have a line for each item. */
export interface PlacementText {
  name: string;
  is: 'any' | 'empty' | 'exact' | 'starts' | 'contains';
  query: string;
  /** By the name of the condition (see CONDITIONS). */
  conditions: Readonly<Record<string, string>>;
  from: string;
  to: string;
  pin: string;
  hide: string;
  lift: string;
  sink: string;
  redirect: string;
  notice: string;
  replaceQuery: string;
}

export function formFrom(placement: PlacementDocument): PlacementText {
  const { name, when, pin = [], hide = [], lift = [], sink = [], redirect, notice, replaceQuery } = placement;
  const { query, is = 'exact', from = '', to = '' } = when;
  return {
    name,
    is: query === undefined ? 'any' : query.trim() === '' ? 'empty' : is,
    query: query ?? '',
    conditions: Object.fromEntries(CONDITIONS.map((one) => [one.name, one.write(when).join('\n')])),
    from,
    to,
    pin: pin.map(({ id, at }) => `${at} ${id}`).join('\n'),
    hide: hide.join('\n'),
    lift: lift.join('\n'),
    sink: sink.join('\n'),
    redirect: redirect ?? '',
    notice: notice ?? '',
    replaceQuery: replaceQuery ?? '',
  };
}

const linesOf = (text: string): string[] =>
  text
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line !== '');

export type PlacementReading = { ok: true; placement: PlacementDocument } | { ok: false; problem: string };

/** Reads the fields of a form; says which line cannot be read. What is empty is left out. */
export function placementFrom(form: PlacementText): PlacementReading {
  const problem = (text: string): PlacementReading => ({ ok: false, problem: text });
  if (!/^[a-z][a-z0-9-]{0,62}$/.test(form.name))
    return problem('A name is small letters, digits and hyphens, and begins with a letter.');
  if (form.from !== '' && form.to !== '' && form.to < form.from) return problem('It ends before it begins.');
  const isTyped = form.is !== 'any' && form.is !== 'empty';
  if (isTyped && form.query.trim() === '') return problem('Say which query it is for.');
  let conditions: PlacementDocument['when'] = {};
  for (const { name, read } of CONDITIONS) {
    const lines = linesOf(form.conditions[name] ?? '');
    const found = lines.length > 0 ? read(lines) : {};
    if (typeof found === 'string') return problem(found);
    conditions = { ...conditions, ...found };
  }
  const pin: { id: string; at: number }[] = [];
  for (const line of linesOf(form.pin)) {
    const [, at, id] = /^(\d{1,4})\s+(.+)$/.exec(line) ?? [];
    if (at === undefined || id === undefined || Number(at) < 1 || Number(at) > 1000)
      return problem(`A pin is a rank from 1 to 1000 and a key: “1 P-0042”, not “${line}”.`);
    pin.push({ id, at: Number(at) });
  }
  const query = form.is === 'any' ? undefined : form.is === 'empty' ? '' : form.query.trim();
  const lists = { hide: linesOf(form.hide), lift: linesOf(form.lift), sink: linesOf(form.sink) };
  const texts = {
    redirect: form.redirect.trim(),
    notice: form.notice.trim(),
    replaceQuery: form.replaceQuery.trim(),
  };
  return {
    ok: true,
    placement: {
      name: form.name,
      when: {
        ...(query === undefined ? {} : { query }),
        ...(isTyped && form.is !== 'exact' ? { is: form.is as 'starts' | 'contains' } : {}),
        ...conditions,
        ...(form.from === '' ? {} : { from: form.from }),
        ...(form.to === '' ? {} : { to: form.to }),
      },
      ...(pin.length > 0 ? { pin } : {}),
      ...Object.fromEntries(Object.entries(lists).filter(([, list]) => list.length > 0)),
      ...Object.fromEntries(Object.entries(texts).filter(([, text]) => text !== '')),
    },
  };
}
