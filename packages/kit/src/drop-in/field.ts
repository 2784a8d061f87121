import { YuccaSearchField } from './field-element.tsx';

if (!customElements.get('yucca-search-field')) customElements.define('yucca-search-field', YuccaSearchField);
