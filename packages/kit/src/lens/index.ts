export { measureFirstResults, type FirstResults, type ToMeasure } from './first-results.ts';
export { RequestLog, type RequestEntry } from './request-log.ts';
export { LINES, overLine, type Line } from './slow-line.ts';
export { NetworkLens, type NetworkLensProps } from '../react/lens/network-lens.tsx';
