import type { Feed, FeedPreviewAnswer, FeedWithSecret } from '@yucca/contract';
import clsx from 'clsx';
import { useState, type FormEvent } from 'react';
import { api } from '@/ui/api';
import { Button } from '@/ui/button';
import { PreviewTable } from './preview-table';
import { answersOf, hostToAllow, schedulesWith, SOURCE_FORMS, sourceOf, type Answers, type Question, type SourceKind } from './source-forms'; // prettier-ignore

const NAMES: Readonly<Record<SourceKind, string>> = {
  webhook: 'Shop',
  poll: 'Export',
  folder: 'Folder',
  sqlite: 'Database',
  postgres: 'Database',
};

/**
 * Connects a source: which kind, where it is, a look at its records, and it runs. Of a feed that is there the same
 * form changes how it is asked.
 */
export function FeedForm({
  collection,
  feed = null,
  onDone,
}: {
  collection: string;
  /** What is changed; null = another is made. */
  feed?: Feed | null;
  onDone: (made: FeedWithSecret) => void;
}) {
  const [kind, setKind] = useState<SourceKind>(feed?.source.kind ?? 'webhook');
  const [answers, setAnswers] = useState<Answers>(feed === null ? { everyS: '900' } : answersOf(feed));
  const [problem, setProblem] = useState<string | null>(null);
  const [preview, setPreview] = useState<FeedPreviewAnswer | null>(null);
  const [busy, setBusy] = useState<string | null>(null);
  const form = SOURCE_FORMS.find((one) => one.kind === kind)!;
  const isAsked = kind !== 'webhook';
  const set = (name: string, value: string): void => {
    setAnswers((now) => ({ ...now, [name]: value }));
    setPreview(null);
  };
  const doing = (what: string, work: Promise<void>): void => {
    setBusy(what);
    setProblem(null);
    work.catch((error: Error) => setProblem(error.message)).finally(() => setBusy(null));
  };
  const look = (given: Answers = answers): void =>
    doing(
      'Asking it for its first records …',
      api<FeedPreviewAnswer>('/feeds/preview', { method: 'POST', json: { source: sourceOf(kind, given, feed?.source), ...(feed && { feed: feed.id }) } }).then(setPreview), // prettier-ignore
    );
  const connect = (event: FormEvent): void => {
    event.preventDefault();
    const name = answers.name?.trim() || NAMES[kind];
    const source = sourceOf(kind, answers, feed?.source);
    if (feed === null) {
      const json = { name, collection, source };
      return doing('Connecting …', api<FeedWithSecret>('/feeds', { method: 'POST', json }).then(onDone));
    }
    const isSame = JSON.stringify(source) === JSON.stringify(sourceOf(kind, answersOf(feed), feed.source));
    // What is read of it now is read from the beginning: a new name alone changes nothing of that.
    const json = { name, ...(isSame ? {} : { source }) };
    doing(
      'Saving …',
      api<Feed>(`/feeds/${feed.id}`, { method: 'PATCH', json }).then((changed) => onDone({ feed: changed })),
    );
  };
  const host = problem === null ? null : hostToAllow(problem);
  const allow = (): void => {
    const next = { ...answers, allowPrivate: `${answers.allowPrivate ?? ''}\n${host}`.trim() };
    setAnswers(next);
    look(next);
  };
  return (
    <form onSubmit={connect} className="grid min-w-0 flex-1 content-start gap-4 overflow-y-auto p-6">
      <h2 className="text-[17px]">{feed === null ? 'Connect a source' : `Settings of ${feed.name}`}</h2>
      {feed === null && (
        <div role="radiogroup" aria-label="Kind of source" className="flex flex-wrap gap-2">
          {SOURCE_FORMS.map((one) => (
            <button
              key={one.kind}
              type="button"
              role="radio"
              aria-checked={one.kind === kind}
              className={clsx(
                'min-h-8 rounded-md border px-3',
                one.kind === kind
                  ? 'border-agave bg-agave-tint font-medium'
                  : 'border-line bg-raised hover:border-field-line',
              )}
              onClick={() => {
                setKind(one.kind);
                setProblem(null);
                setPreview(null);
              }}
            >
              {one.title}
            </button>
          ))}
        </div>
      )}
      <p className="max-w-[70ch] text-soft">{form.says}</p>
      <div className="grid max-w-[760px] grid-cols-2 gap-x-6 gap-y-3">
        <Ask
          question={{ name: 'name', label: 'What is it called?', placeholder: NAMES[kind] }}
          answers={answers}
          onAnswer={set}
        />
        {isAsked && <Schedule answers={answers} onAnswer={set} />}
        {form.questions
          .filter(({ isRare }) => !isRare)
          .map((question) => (
            <Ask key={question.name} question={question} answers={answers} onAnswer={set} />
          ))}
      </div>
      {form.questions.some(({ isRare }) => isRare) && (
        <details className="max-w-[760px]">
          <summary className="min-h-6 font-medium">More</summary>
          <div className="grid grid-cols-2 gap-x-6 gap-y-3 pt-2">
            {form.questions
              .filter(({ isRare }) => isRare)
              .map((question) => (
                <Ask key={question.name} question={question} answers={answers} onAnswer={set} />
              ))}
          </div>
        </details>
      )}
      {problem && (
        <p role="alert" className="flex max-w-[760px] flex-wrap items-center gap-3 text-madder">
          {problem}
          {host !== null && <Button onClick={allow}>Allow {host}</Button>}
        </p>
      )}
      <div className="flex items-center gap-3">
        {isAsked && (
          <Button disabled={busy !== null} onClick={() => look()}>
            Look at its records
          </Button>
        )}
        <Button kind="primary" type="submit" disabled={busy !== null}>
          {feed === null ? 'Connect' : 'Save'}
        </Button>
        <span role="status" className="text-soft">
          {busy ?? ''}
        </span>
      </div>
      {preview && (
        <section aria-label="Its first records" className="min-w-0">
          <p className="mb-2 text-soft">
            {preview.records.length === 0
              ? 'It has no records.'
              : preview.key === null
                ? 'No field tells these apart: name one above.'
                : `Told apart by “${preview.key}”. These would be stored:`}
          </p>
          <PreviewTable records={preview.records} />
        </section>
      )}
    </form>
  );
}

function Ask({
  question,
  answers,
  onAnswer,
}: {
  question: Question;
  answers: Answers;
  onAnswer: (name: string, value: string) => void;
}) {
  const { name, label, type = 'text', placeholder, help } = question;
  const value = answers[name] ?? '';
  const common = { value, placeholder, className: 'field mt-1' };
  if (type === 'check')
    return (
      <label className="flex min-h-8 items-center gap-2 self-end">
        <input
          type="checkbox"
          checked={value === 'true'}
          onChange={(event) => onAnswer(name, String(event.target.checked))}
        />
        <span>
          {label}
          {help && <span className="block text-xs text-soft">{help}</span>}
        </span>
      </label>
    );
  return (
    <label className={clsx(type === 'code' && 'col-span-2')}>
      {label}
      {type === 'lines' || type === 'code' ? (
        <textarea {...common} rows={2} spellCheck={false} onChange={(event) => onAnswer(name, event.target.value)} />
      ) : (
        <input
          {...common}
          type={type === 'password' ? 'password' : 'text'}
          inputMode={type === 'number' ? 'numeric' : undefined}
          autoComplete="off"
          spellCheck={false}
          onChange={(event) => onAnswer(name, event.target.value)}
        />
      )}
      {help && <span className="text-xs text-soft">{help}</span>}
    </label>
  );
}

function Schedule({ answers, onAnswer }: { answers: Answers; onAnswer: (name: string, value: string) => void }) {
  return (
    <div className="grid content-start gap-1">
      <label>
        When is it asked?
        <select
          className="field mt-1"
          value={answers.everyS ?? ''}
          onChange={(event) => onAnswer('everyS', event.target.value)}
        >
          {schedulesWith(answers.everyS ?? '').map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </select>
      </label>
      {answers.everyS === 'cron' && (
        <input
          className="field figures"
          aria-label="Cron expression"
          placeholder="0 4 * * *"
          value={answers.cron ?? ''}
          onChange={(event) => onAnswer('cron', event.target.value)}
        />
      )}
    </div>
  );
}
