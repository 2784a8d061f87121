import type { Judgement } from '@yucca/contract';
import { useRef, type ChangeEvent } from 'react';
import { api } from '@/ui/api';
import { Button } from '@/ui/button';

/** Taking judgements out and bringing them in: JSON, or TREC qrels. */
export function Exchange({
  collection,
  onReplaced,
  onProblem,
}: {
  collection: string;
  onReplaced: (all: Judgement[]) => void;
  onProblem: (problem: string | null) => void;
}) {
  const file = useRef<HTMLInputElement>(null);
  const path = `/collections/${collection}/judgements`;
  const save = async (): Promise<void> => {
    const response = await fetch(`/api/v1${path}`, { headers: { Accept: 'text/plain' } });
    const link = document.createElement('a');
    link.href = URL.createObjectURL(await response.blob());
    link.download = `${collection}.qrels`;
    link.click();
    URL.revokeObjectURL(link.href);
  };
  const take = async ({ target }: ChangeEvent<HTMLInputElement>): Promise<void> => {
    const chosen = target.files?.[0];
    target.value = '';
    if (!chosen) return;
    const text = await chosen.text();
    const type = text.trimStart().startsWith('{') ? 'application/json' : 'text/plain';
    onProblem(null);
    await api<{ judgements: Judgement[] }>(path, { method: 'PUT', body: text, headers: { 'Content-Type': type } }).then(
      ({ judgements }) => onReplaced(judgements),
      (error: Error) => onProblem(`${chosen.name} was not taken, and nothing has changed. ${error.message}`),
    );
  };
  return (
    <span className="flex gap-2">
      <input
        ref={file}
        type="file"
        hidden
        accept=".qrels,.txt,.json"
        aria-label="File of judgements"
        onChange={(event) => void take(event)}
      />
      <Button onClick={() => file.current?.click()} title="TREC qrels or JSON; it takes the place of what is here">
        Import …
      </Button>
      <Button onClick={() => void save()}>Export qrels</Button>
    </span>
  );
}
