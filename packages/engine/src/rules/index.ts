export { applyRules } from './apply.ts';
export { EffectCounter } from './effect.ts';
export { proposeRules, type RuleProposal } from './propose.ts';
export { isCoerced, coerce } from './coercions.ts';
export { isDatePattern } from './dates.ts';
