'use client';

import type { Card, Judgement, SearchAnswer, SearchResult, Whereabouts } from '@yucca/contract';
import { shownHit, type YuccaClient } from '@yucca/kit';
import { useEffect, useState } from 'react';
import { api } from '@/ui/api';
import { count } from '@/ui/format';
import { later } from '@/ui/later';
import { decisionBetween, decisionSentence } from '../comparison/decision';
import { versionName, versionSign, versionTone, type Version } from '../comparison/versions';
import { useDraft, useDraftStore } from '../draft';
import { BENCH_FIRST_MS } from '../kept-queries';
import { commonWords } from './common-words';
import { letFind, reasonSentence, remediesFor } from './remedies';

/** Results of the first page: a judged record further down is worth a look. */
const FIRST = 10;
/** Grades from here on say that a record should come up. */
const SHOULD = 2;
const NAMED = 3;

export interface WhereIsProps {
  client: YuccaClient;
  collection: string;
  /** The field that identifies a record. */
  keyField: string;
  card: Card;
  text: string;
  on: string;
  left: Version;
  right: Version;
  /** Another one when the same question may have another answer. */
  state: string;
  /** Of both columns, left and right. */
  answers: readonly [SearchAnswer | null, SearchAnswer | null];
  sought: string;
  onSought: (id: string) => void;
}

/**
 * Where one record stands under both versions, what keeps it out or puts another above it, and what could be done about
 * it. Records that were judged to come up for the query and do not are offered.
 */
export function WhereIs(props: WhereIsProps) {
  const { client, collection, keyField, card, text, right, state, sought, onSought, answers } = props;
  const missing = useMissing(collection, text, state, answers[1]);
  const texts = useTexts(client, collection, keyField, card, sought === '' ? missing : [...missing, sought]);
  const nameOf = (id: string): string => texts.get(id)?.title ?? id;
  if (missing.length === 0 && sought === '') return null;
  const known = missing.flatMap((id) => texts.get(id)?.whole ?? []);
  const others = (answers[1]?.results ?? []).slice(0, FIRST).map((result) => textOf(result, card).whole);
  return (
    <div className="shrink-0 border-b border-line px-4 py-1.5 text-[13px]">
      {missing.length > 0 && (
        <p>
          <span className="text-clay">Judged to come up and not in the first {FIRST}: </span>
          {missing.slice(0, NAMED).map((id, i) => (
            <span key={id}>
              {i > 0 && ', '}
              <button type="button" className="link min-h-6" title="Where is it?" onClick={() => onSought(id)}>
                {nameOf(id)}
              </button>
            </span>
          ))}
          {missing.length > NAMED && ` and ${missing.length - NAMED} more`}
        </p>
      )}
      {right === 'draft' && <Common wanted={known} others={others} text={text} />}
      {sought !== '' && <Found key={sought} {...props} name={nameOf(sought)} />}
    </div>
  );
}

/** A word that most of the missing records hold: the query could lead to it. */
function Common({ wanted, others, text }: { wanted: readonly string[]; others: readonly string[]; text: string }) {
  const store = useDraftStore();
  const [first] = commonWords(wanted, others, text);
  if (!first) return null;
  const { label, apply } = letFind(text.trim(), first.word);
  return (
    <p className="flex flex-wrap items-center gap-2">
      <span className="text-soft">
        {first.count} of them hold “{first.word}”. Try in the draft:
      </span>
      <RemedyButton label={label} onPress={() => store.change(apply)} />
    </p>
  );
}

function RemedyButton({ label, onPress }: { label: string; onPress: () => void }) {
  return (
    <button
      type="button"
      className="min-h-6 rounded border border-field-line bg-raised px-2 hover:bg-sunk"
      onClick={onPress}
    >
      {label}
    </button>
  );
}

/** The key of a record, or words of it to choose it by. */
export function RecordField({
  client,
  collection,
  card,
  sought,
  onSought,
}: Pick<WhereIsProps, 'client' | 'collection' | 'card' | 'sought' | 'onSought'>) {
  const [words, setWords] = useState<string | null>(null);
  const [offers, setOffers] = useState<readonly SearchResult[]>([]);
  useEffect(() => {
    if (words === null || words.trim() === '') return;
    const gone = new AbortController();
    client.search(collection, { q: words, size: 6, record: false }, gone.signal).then(
      ({ results }) => setOffers(results),
      () => {},
    );
    return () => gone.abort();
  }, [client, collection, words]);
  const choose = (id: string): void => {
    setWords(null);
    onSought(id);
  };
  const shown = words === null || words.trim() === '' ? [] : offers;
  return (
    <span className="relative flex items-center gap-2">
      <label className="flex items-center gap-1.5 text-[13px]" title="Where a record stands, or what keeps it out">
        <span className="shrink-0 text-soft">Where is</span>
        <input
          className="field h-8 w-48 py-0 text-[13px]"
          placeholder="a record, by name or key"
          aria-label="Record to look for"
          value={words ?? sought}
          onChange={(event) => setWords(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Enter' && words !== null) choose(shown[0]?.id ?? words.trim());
            if (event.key === 'Escape') setWords(null);
          }}
        />
      </label>
      {sought !== '' && words === null && (
        <button
          type="button"
          className="link min-h-6 text-[13px]"
          title="Look for no record"
          onClick={() => onSought('')}
        >
          none
        </button>
      )}
      {shown.length > 0 && (
        <ul
          className="absolute top-9 left-[60px] z-10 w-80 rounded-md border border-line bg-raised py-1"
          aria-label="Records"
        >
          {shown.map((result) => (
            <li key={result.id}>
              <button
                type="button"
                className="flex min-h-7 w-full items-center gap-2 px-3 text-left hover:bg-sunk"
                onClick={() => choose(result.id)}
              >
                <span className="min-w-0 flex-1 truncate">{shownHit(result, card).title.text}</span>
                <span className="figures text-xs text-soft">{result.id}</span>
              </button>
            </li>
          ))}
        </ul>
      )}
    </span>
  );
}

/** Where the record is, in both columns, and the remedies for the draft. */
function Found(props: WhereIsProps & { name: string }) {
  const { collection, text, on, left, right, state, sought, answers, card, name } = props;
  const [{ document }, store] = useDraft();
  const old = useWhereabouts(collection, text, on, left, sought, state);
  const now = useWhereabouts(collection, text, on, right, sought, state);
  const words = answers[1]?.understood.words.length ?? 0;
  const remedies = now && now.id === sought ? remediesFor({ found: now, text, words, document }) : [];
  return (
    <div className="py-1" role="region" aria-label="Where the record is">
      <p className="font-medium">{name}</p>
      {(
        [
          [left, old, answers[0]],
          [right, now, answers[1]],
        ] as const
      ).map(([version, found, answer], i) => (
        <p key={i} className="flex gap-2" aria-live="polite">
          <span className={`w-20 shrink-0 ${versionTone(version)}`}>
            {versionSign(version)} {versionName(version)}
          </span>
          <span className="min-w-0">{found ? placeSentence(found, answer, card, name) : '…'}</span>
        </p>
      ))}
      {remedies.length > 0 && right === 'draft' && (
        <p className="mt-1 flex flex-wrap items-center gap-2">
          <span className="text-soft">Try in the draft:</span>
          {remedies.map(({ label, apply }) => (
            <RemedyButton key={label} label={label} onPress={() => store.change(apply)} />
          ))}
        </p>
      )}
    </div>
  );
}

function placeSentence(found: Whereabouts, answer: SearchAnswer | null, card: Card, name: string): string {
  if (found.place === null) return `Not here. ${found.reasons.map(reasonSentence).join(' ')}`;
  const place = `Rank ${count(found.place)} of ${count(found.total)}.`;
  const above = answer?.results[Math.min(found.place, answer.results.length + 1) - 2];
  if (found.place === 1 || !above || !found.result) return place;
  const decision = decisionBetween(above, found.result);
  return decision ? `${place} ${decisionSentence(decision, shownHit(above, card).title.text, name)}` : place;
}

/** Asks where a record stands; null while nothing is known. The last answer stays until the next. */
function useWhereabouts(
  collection: string,
  q: string,
  on: string,
  version: Version,
  id: string,
  state: string,
): Whereabouts | null {
  const [found, setFound] = useState<Whereabouts | null>(null);
  useEffect(() => {
    const gone = new AbortController();
    api<Whereabouts>(`/collections/${collection}/whereabouts`, {
      method: 'POST',
      json: { q, version, id, ...(on !== '' && { on }) },
      signal: gone.signal,
    }).then(setFound, () => {});
    return () => gone.abort();
  }, [collection, q, on, version, id, state]);
  return found;
}

/** Records judged to come up for a query that the answer does not have among its first. */
function useMissing(collection: string, text: string, state: string, answer: SearchAnswer | null): string[] {
  const [judgements, setJudgements] = useState<readonly Judgement[]>([]);
  useEffect(() => {
    return later(BENCH_FIRST_MS, (signal) => {
      api<{ judgements: Judgement[] }>(`/collections/${collection}/judgements`, { signal }).then(
        (all) => setJudgements(all.judgements),
        // Without judgements nothing is missing.
        () => {},
      );
    });
  }, [collection, state]);
  const judged = judgements.find(({ query }) => query.toLowerCase() === text.trim().toLowerCase());
  if (!judged || !answer) return [];
  const first = new Set(answer.results.slice(0, FIRST).map(({ id }) => id));
  const good = Object.entries(judged.grades).filter(([, grade]) => grade >= SHOULD);
  // More than there are places cannot come up first.
  if (good.filter(([id]) => first.has(id)).length >= Math.min(FIRST, good.length)) return [];
  return good
    .filter(([id]) => !first.has(id))
    .sort((a, b) => b[1] - a[1])
    .map(([id]) => id);
}

interface RecordText {
  title: string;
  /** All that its row shows. */
  whole: string;
}

function textOf(result: SearchResult, card: Card): RecordText {
  const { title, detail } = shownHit(result, card);
  return { title: title.text, whole: `${title.text} ${detail?.text ?? ''}` };
}

/** Records asked for at once. */
const AT_ONCE = 50;

/** What some records are called, as far as that is known. */
function useTexts(
  client: YuccaClient,
  collection: string,
  keyField: string,
  card: Card,
  ids: readonly string[],
): Map<string, RecordText> {
  const [texts, setTexts] = useState(new Map<string, RecordText>());
  const wanted = ids.slice(-AT_ONCE).filter((id) => !texts.has(id)).join('\n'); // prettier-ignore
  useEffect(() => {
    if (wanted === '') return;
    const gone = new AbortController();
    const keys = wanted.split('\n').map((id) => `'${id.replaceAll("'", "''")}'`);
    const filter = `"${keyField}" IN (${keys.join(', ')})`;
    const fields = [card.title, card.detail].filter((field) => field !== null);
    client.search(collection, { filter, fields, size: AT_ONCE, record: false }, gone.signal).then(
      ({ results }) =>
        setTexts((known) => new Map([...known, ...results.map((one) => [one.id, textOf(one, card)] as const)])),
      // Without their names, records go by their keys.
      () => {},
    );
    return () => gone.abort();
  }, [client, collection, keyField, card, wanted]);
  return texts;
}
