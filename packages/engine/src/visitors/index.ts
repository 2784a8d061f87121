export { clickModelOf, gradesFrom, type ClickModel, type Shown } from './click-model.ts';
export { teamDraft, verdictOf, winnerOf, type Drafted, type Team, type Verdict } from './interleave.ts';
export { masked } from './mask.ts';
export { leadsTo, settle, SETTLING, type Settled, type VisitSearch } from './settle.ts';
