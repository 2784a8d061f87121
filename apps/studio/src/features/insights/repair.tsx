import {
  withAdded,
  type InsightProposal,
  type InsightProposals,
  type Judgement,
  type TuningDocument,
} from '@yucca/contract';
import Link from 'next/link';
import { useState } from 'react';
import { api } from '@/ui/api';
import { Button } from '@/ui/button';
import { counted } from '@/ui/format';
import type { DateRange } from './range';
import { useTold } from '@/ui/use-told';

/** What was taken into the draft, so that it can be taken back. */
interface Taken {
  proposal: InsightProposal;
  before: TuningDocument;
  /** The record that is judged the best answer from now on. */
  judged: string | null;
}

/** What can be done about a query that visitors ask: proposals with their effect, and the ways to the other stages. */
export function Repair({ collection, query, range }: { collection: string; query: string; range: DateRange }) {
  const asked = new URLSearchParams({ query, from: range.from, to: range.to });
  const { value, problem, again } = useTold<InsightProposals>(`/collections/${collection}/insights/proposals?${asked}`);
  const [taken, setTaken] = useState<Taken | null>(null);
  const [failed, setFailed] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);

  const doing = async (work: () => Promise<void>): Promise<void> => {
    setBusy(true);
    setFailed(null);
    try {
      await work();
      again();
    } catch (error) {
      setFailed((error as Error).message);
    } finally {
      setBusy(false);
    }
  };
  const take = (proposal: InsightProposal): Promise<void> =>
    doing(async () => {
      let tag = '';
      const draft = await api<TuningDocument>(`/collections/${collection}/tuning?version=draft`, {
        onAnswer: (answer) => (tag = answer.headers.get('ETag') ?? ''),
      });
      await saveDraft(collection, withAdded(draft, proposal.add), tag);
      const judged = proposal.first[0] ?? null;
      if (judged !== null) await judge(collection, query, judged, 3);
      setTaken({ proposal, before: draft, judged });
    });
  const undo = ({ before, judged }: Taken): Promise<void> =>
    doing(async () => {
      await saveDraft(collection, before, null);
      if (judged !== null) await judge(collection, query, judged, null);
      setTaken(null);
    });

  const probe = encodeURIComponent(query);
  return (
    <section aria-label="Repair" className="border-b border-l border-line bg-raised p-3 text-[13px]">
      <h2 className="truncate font-head text-[15px] font-semibold">Repair “{query}”</h2>
      {taken !== null && (
        <p role="status" className="mt-2 rounded-md bg-sunk p-2">
          <span className="text-clay">◇</span> In the draft: {taken.proposal.what}
          {taken.judged !== null && <>, and {taken.judged} is judged its best answer</>}. Visitors get it when the draft
          is published.{' '}
          <Button disabled={busy} onClick={() => void undo(taken)}>
            Undo
          </Button>
        </p>
      )}
      {(problem ?? failed) && (
        <p role="alert" className="mt-2 text-madder">
          {failed ?? problem}
        </p>
      )}
      {value && value.finds.live === 0 && value.finds.draft > 0 && taken === null && (
        <p className="mt-1">
          <span className="text-clay">◇</span> The draft finds {counted(value.finds.draft, 'record')}: publish it, and
          this is mended.
        </p>
      )}
      {value && value.finds.draft === 0 && value.proposals.length === 0 && taken === null && (
        <p className="mt-1 text-soft">
          Nothing can be proposed from what visitors typed and from the words of the data. Try it in Tuning.
        </p>
      )}
      <ul>
        {value?.proposals.map((proposal) => (
          <li key={proposal.what} className="mt-2 border-t border-line pt-2">
            <p className="font-medium">{proposal.what}</p>
            <p className="text-soft">{proposal.reason}</p>
            <p className="mt-1 flex items-center gap-3">
              <span className="figures">{proposal.effect}</span>
              {proposal.kind === 'record' ? (
                <Link
                  className="link"
                  href={`/c/${collection}/records?record=${encodeURIComponent(proposal.first[0]!)}`}
                >
                  Open the record
                </Link>
              ) : (
                <Button disabled={busy} onClick={() => void take(proposal)}>
                  Take into the draft
                </Button>
              )}
            </p>
          </li>
        ))}
      </ul>
      <p className="mt-2 flex flex-wrap gap-x-4">
        <Link className="link" href={`/c/${collection}/tuning?probe=${probe}`}>
          Open in Tuning
        </Link>
        <Link className="link" href={`/c/${collection}/judgements?probe=${probe}`}>
          Judge its results
        </Link>
      </p>
    </section>
  );
}

async function saveDraft(collection: string, json: TuningDocument, tag: string | null): Promise<void> {
  const headers: Record<string, string> = tag === null ? {} : { 'If-Match': tag };
  await api(`/collections/${collection}/tuning/draft?wait=true`, { method: 'PUT', json, headers });
}

async function judge(collection: string, query: string, id: string, grade: number | null): Promise<void> {
  const json = { judgements: [{ query, grades: { [id]: grade } }] };
  await api<{ judgements: Judgement[] }>(`/collections/${collection}/judgements`, { method: 'PATCH', json });
}
