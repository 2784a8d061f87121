export { applyRules } from './apply.ts';
export { EffectCounter } from './effect.ts';
export { proposeRules, type RuleProposal } from './propose.ts';
export { isRead, readValue } from './readings.ts';
