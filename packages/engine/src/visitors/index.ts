export { masked } from './mask.ts';
export { leadsTo, settle, SETTLING, type Settled, type VisitSearch } from './settle.ts';
