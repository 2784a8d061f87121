export { Marked } from './marked.tsx';
export { useAddress } from './use-address.ts';
export { useSearch } from './use-search.ts';
export { SearchField, type SearchFieldClasses, type SearchFieldProps } from './search-field.tsx';
export { useAutocomplete } from './use-autocomplete.ts';
