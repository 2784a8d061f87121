import { INSIGHT_INTERVALS, INSIGHT_LISTS, INSIGHT_SORTS } from '../../insights.ts';
import { C, json, page, size, type Operation, type QueryParameter } from './operation.ts';

const range: QueryParameter[] = [
  { name: 'from', description: 'The first date, in UTC. Default: 29 days before to.', schema: { type: 'string', format: 'date' } }, // prettier-ignore
  { name: 'to', description: 'The last date. Default: today.', schema: { type: 'string', format: 'date' } },
  { name: 'interface', description: 'Searches of this page alone.', schema: { type: 'string' } },
  { name: 'tag', description: 'Searches with this tag alone.', schema: { type: 'string' } },
];

export const INSIGHTS: readonly Operation[] = [
  {
    id: 'getInsights',
    method: 'get',
    path: `${C}/insights`,
    right: 'admin',
    group: 'Insights',
    summary: 'What visitors did, in numbers',
    query: [
      ...range,
      { name: 'interval', description: 'Of the series.', schema: { type: 'string', enum: INSIGHT_INTERVALS, default: 'day' } }, // prettier-ignore
    ],
    answers: { 200: [json('Insights')] },
  },
  {
    id: 'listInsights',
    method: 'get',
    path: `${C}/insights/{list}`,
    right: 'admin',
    group: 'Insights',
    summary: 'A list of queries, choices or records',
    more: `Lists: ${INSIGHT_LISTS.join(', ')}.`,
    query: [
      ...range,
      { name: 'sort', description: 'The largest first. Each list has its own default.', schema: { type: 'string', enum: INSIGHT_SORTS } }, // prettier-ignore
      { name: 'q', description: 'Only lines that hold this text.', schema: { type: 'string' } },
      page,
      size,
      { name: 'format', description: 'csv: all lines, for a spreadsheet.', schema: { type: 'string', enum: ['json', 'csv'], default: 'json' } }, // prettier-ignore
    ],
    answers: { 200: [json('InsightPage'), { type: 'text/csv', schema: 'Text' }] },
  },
  {
    id: 'proposeRepairs',
    method: 'get',
    path: `${C}/insights/proposals`,
    right: 'admin',
    group: 'Insights',
    summary: 'How a query that fails may be mended',
    more: 'Each with what it would do to the draft.',
    query: [{ name: 'query', description: 'As visitors typed it.', schema: { type: 'string' } }, ...range.slice(0, 2)],
    answers: { 200: [json('InsightProposals')] },
  },
  {
    id: 'visitorJudgements',
    method: 'get',
    path: `${C}/insights/judgements`,
    right: 'admin',
    group: 'Insights',
    summary: 'Judgements that visitors’ clicks make',
    more: 'Ranks are taken into account (position-based click model). Nothing is stored: those by hand stay what they are.',
    query: range.slice(0, 2),
    answers: { 200: [json('VisitorJudgements')] },
  },
  {
    id: 'importSearches',
    method: 'post',
    path: `${C}/insights/searches`,
    right: 'admin',
    group: 'Insights',
    summary: 'Bring searches of another system, or of another time',
    more: 'One JSON object a line. They are counted once each, as they are: bring queries that were meant, not keystrokes.',
    body: [{ type: 'application/x-ndjson', schema: 'PastSearch' }],
    answers: { 200: [json('SearchesTaken', { taken: 1 })] },
  },
  {
    id: 'eraseInsights',
    method: 'delete',
    path: `${C}/insights`,
    right: 'admin',
    group: 'Insights',
    summary: 'Erase what is kept of a visit, a viewer or a query',
    more: 'One of the three has to be given.',
    query: ['session', 'viewer', 'query'].map((name) => ({
      name,
      description: name === 'query' ? 'The words, in any case.' : 'As the page called it.',
      schema: { type: 'string' },
    })),
    answers: { 200: [json('SearchesErased', { erased: 1 })] },
  },
  {
    id: 'getVisitorTrial',
    method: 'get',
    path: `${C}/visitor-trial`,
    right: 'admin',
    group: 'Insights',
    summary: 'Live against draft on visitors: the trial that runs, or the last one',
    answers: { 200: [json('VisitorTrial')] },
  },
  {
    id: 'startVisitorTrial',
    method: 'post',
    path: `${C}/visitor-trial`,
    right: 'admin',
    group: 'Insights',
    summary: 'Try the draft on visitors',
    more: 'Searches that a page makes for a visit are answered from live and from the draft, as it is now, in one list (team-draft interleaving); results that are opened count for the side that put them there.',
    answers: { 201: [json('VisitorTrial')] },
  },
  {
    id: 'stopVisitorTrial',
    method: 'delete',
    path: `${C}/visitor-trial`,
    right: 'admin',
    group: 'Insights',
    summary: 'End the trial',
    more: 'What came out stays to be read. A trial also ends when another version is published.',
    answers: { 200: [json('VisitorTrial')] },
  },
];
