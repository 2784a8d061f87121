import { YuccaSearch } from './element.tsx';

if (!customElements.get('yucca-search')) customElements.define('yucca-search', YuccaSearch);
