import { SearchView } from '@yucca/kit/react';
import { withStanding } from '@yucca/kit/standing';
import '@yucca/kit/styles.css';
import { createRoot } from 'react-dom/client';
import { client } from './client';

const page = await client.page('nursery');
const inStock = withStanding(client, { plants: { filter: 'stock > 0', tags: ['member'] } });

createRoot(document.getElementById('shop')!).render(<SearchView page={page} client={inStock} here="/stock.html" />);
