export { rankBiasedOverlap } from './rank-overlap.ts';
