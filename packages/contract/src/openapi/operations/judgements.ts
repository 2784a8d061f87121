import { json, type Operation } from './operation.ts';

export const JUDGEMENTS: readonly Operation[] = [
  {
    id: 'getJudgements',
    method: 'get',
    path: '/collections/{collection}/judgements',
    right: 'admin',
    group: 'Judgements',
    summary: 'All judgements of a collection',
    more: 'With Accept: text/plain as TREC qrels; queries and keys are percent-encoded there.',
    answers: { 200: [json('Judgements')] },
  },
  {
    id: 'putJudgements',
    method: 'put',
    path: '/collections/{collection}/judgements',
    right: 'admin',
    group: 'Judgements',
    summary: 'Put others in the place of all judgements',
    more: 'Also as text/plain: TREC qrels.',
    body: [json('Judgements', { judgements: [{ query: 'snake plant', grades: { 'P-0042': 3, 'P-0107': 2 } }] })],
    answers: { 200: [json('Judgements')] },
  },
  {
    id: 'patchJudgements',
    method: 'patch',
    path: '/collections/{collection}/judgements',
    right: 'admin',
    group: 'Judgements',
    summary: 'Change some grades',
    body: [
      json('JudgementChanges', { judgements: [{ query: 'snake plant', grades: { 'P-0042': 2, 'P-0107': null } }] }),
    ],
    answers: { 200: [json('Judgements')] },
  },
  {
    id: 'runJudgements',
    method: 'post',
    path: '/collections/{collection}/judgements/run',
    right: 'admin',
    group: 'Judgements',
    summary: 'Score live and draft at the judged queries',
    body: [json('JudgementRun', {})],
    answers: { 200: [json('JudgementScores')] },
  },
];
