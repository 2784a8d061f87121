export { Marked } from './marked.tsx';
export { useAddress } from './use-address.ts';
export { useSearch } from './use-search.ts';
