'use client';

import type { Card, Collection, JudgedQuery, Judgement } from '@yucca/contract';
import { meanScores } from '@yucca/engine/judge';
import { useCallback, useEffect, useMemo, useState, type FormEvent } from 'react';
import { api } from '@/ui/api';
import { Button } from '@/ui/button';
import { count, counted } from '@/ui/format';
import { useParam } from '@/ui/use-param';
import { Exchange } from './exchange';
import { FromVisitors } from './from-visitors';
import { GradeResults } from './grade-results';
import { QueryTable } from './query-table';
import { runJudgements } from './run-judgements';
import { ScoreStrip } from './score-strip';

export interface JudgementsScreenProps {
  collection: Collection;
  card: Card;
  start: Judgement[];
}

/** What should come up for a query, and how well live and draft do at it. */
export function JudgementsScreen({ collection, card, start }: JudgementsScreenProps) {
  const { name, generation } = collection;
  const [judgements, setJudgements] = useState(start);
  const [scores, setScores] = useState<ReadonlyMap<string, JudgedQuery>>(new Map());
  const [text, setText] = useParam('probe');
  const [by, setBy] = useParam('by');
  const [problem, setProblem] = useState<string | null>(null);
  const [removed, setRemoved] = useState<Judgement | null>(null);
  // A new list, from outside or from an import, is scored as a whole.
  const [list, setList] = useState(start);

  useEffect(() => {
    const gone = new AbortController();
    const add = (part: readonly JudgedQuery[]): void => {
      if (!gone.signal.aborted)
        setScores((before) => new Map([...before, ...part.map((one) => [one.query, one] as const)]));
    };
    runJudgements(
      name,
      list.map(({ query }) => query),
      gone.signal,
      add,
    ).catch((error: Error) => {
      if (!gone.signal.aborted) setProblem(error.message);
    });
    return () => gone.abort();
  }, [name, list, generation]);

  const change = useCallback(
    async (query: string, grades: Record<string, number | null> | null): Promise<void> => {
      setProblem(null);
      try {
        const answer = await api<{ judgements: Judgement[] }>(`/collections/${name}/judgements`, {
          method: 'PATCH',
          json: { judgements: [{ query, grades }] },
        });
        setJudgements(answer.judgements);
        const [scored] = await runJudgements(name, [query], new AbortController().signal);
        setScores((before) => {
          const after = new Map(before);
          if (scored) after.set(query, scored);
          else after.delete(query);
          return after;
        });
      } catch (error) {
        setProblem((error as Error).message);
      }
    },
    [name],
  );
  const remove = (judgement: Judgement): void => {
    setRemoved(judgement);
    void change(judgement.query, null);
  };
  const rows = useMemo(() => judgements.map(({ query }) => scores.get(query)).filter((one) => one !== undefined), [judgements, scores]); // prettier-ignore
  const chosen = judgements.find(({ query }) => query === text);
  return (
    <section className="flex min-w-0 flex-1">
      <div className="flex min-w-0 flex-1 flex-col">
        <header className="border-b border-line px-6 py-3">
          <div className="flex items-center gap-4">
            <h1 className="text-[20px] leading-7">Judgements</h1>
            {collection.searched && (
              <label className="flex items-center gap-2 text-soft">
                Judged
                <select
                  className="field h-8 w-auto py-0"
                  value={by}
                  onChange={(event) => setBy(event.target.value, 'push')}
                >
                  <option value="">by hand</option>
                  <option value="visitors">by visitors’ clicks</option>
                </select>
              </label>
            )}
            {by === '' && <span className="text-soft">{counted(judgements.length, 'query', 'queries')} judged</span>}
            {rows.length > 0 && (
              <span className="text-xs">
                <span className="text-agave">◆ live</span>
                {collection.draftChanged && <span className="ml-3 text-clay">◇ draft</span>}
              </span>
            )}
            {rows.length < judgements.length && (
              <span role="status" className="flex items-center gap-2 text-soft">
                <progress className="meter h-1.5 w-28" max={judgements.length} value={rows.length} />
                {count(rows.length)} of {count(judgements.length)} scored
              </span>
            )}
            <span className="ml-auto">
              <Exchange
                collection={name}
                onReplaced={(all) => {
                  setScores(new Map());
                  setJudgements(all);
                  setList(all);
                }}
                onProblem={setProblem}
              />
            </span>
          </div>
          {by === '' && rows.length > 0 && (
            <ScoreStrip
              live={meanScores(rows.map(({ live }) => live))}
              draft={meanScores(rows.map(({ draft }) => draft))}
              hasDraft={collection.draftChanged}
            />
          )}
        </header>
        {problem && (
          <p role="alert" className="border-b border-line px-6 py-2 text-madder">
            {problem}
          </p>
        )}
        {removed && (
          <p role="status" className="flex items-center gap-3 border-b border-line bg-sunk px-6 py-1.5">
            “{removed.query}” is judged no more.
            <Button
              onClick={() => {
                void change(removed.query, removed.grades);
                setRemoved(null);
              }}
            >
              Undo
            </Button>
          </p>
        )}
        {by === 'visitors' ? (
          <FromVisitors collection={collection} chosen={text} onChoose={setText} />
        ) : judgements.length === 0 ? (
          <p className="p-6 text-soft">
            Nothing is judged yet. Type a query on the right as a visitor would, and grade what comes up: from then on
            every draft shows whether it does better or worse at it.
          </p>
        ) : (
          <QueryTable
            judgements={judgements}
            scores={scores}
            hasDraft={collection.draftChanged}
            chosen={text}
            onChoose={setText}
            onRemove={remove}
          />
        )}
      </div>
      <aside aria-label="Grade" className="flex w-[460px] shrink-0 flex-col border-l border-line bg-raised">
        <QueryField key={`field ${text}`} text={text} onText={setText} />
        <GradeResults
          key={`results ${text}`}
          collection={name}
          card={card}
          query={text}
          grades={chosen?.grades ?? {}}
          hasDraft={collection.draftChanged}
          generation={generation}
          onGrade={(id, grade) => void change(text, { [id]: grade })}
        />
      </aside>
    </section>
  );
}

/** A query to be judged; it is taken with Enter, so that no half-typed one is. */
function QueryField({ text, onText }: { text: string; onText: (text: string) => void }) {
  const [typed, setTyped] = useState(text);
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    onText(typed.trim());
  };
  return (
    <form onSubmit={submit} className="flex gap-2 border-b border-line p-3">
      <label className="min-w-0 flex-1">
        <span className="sr-only">Query to judge</span>
        <input
          id="probe"
          type="search"
          className="field"
          value={typed}
          maxLength={512}
          placeholder="A query, as a visitor types it ( / )"
          onChange={(event) => setTyped(event.target.value)}
        />
      </label>
      <Button type="submit">Judge it</Button>
    </form>
  );
}
