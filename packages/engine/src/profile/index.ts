export { Profiler } from './profiler.ts';
