export { meanScores, scoresOf, verdict } from './measures.ts';
export { parseQrels, printQrels, type QrelsError } from './qrels.ts';
