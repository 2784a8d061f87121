import { addressMap } from '@yucca/kit';
import { createInsights } from '@yucca/kit/insights';
import { SearchView } from '@yucca/kit/react';
import '@yucca/kit/styles.css';
import { createRoot } from 'react-dom/client';
import { client } from './client';

const page = await client.page('nursery');
const { query } = addressMap(page.facets).read(window.location);
const insights = createInsights({
  base: import.meta.env.VITE_YUCCA_SERVER,
  key: import.meta.env.VITE_YUCCA_KEY,
});

createRoot(document.getElementById('shop')!).render(
  <SearchView
    page={page}
    client={client}
    query={query}
    here={window.location.pathname}
    recordHref={({ id }) => `/plants/${encodeURIComponent(id)}`}
    picturesFrom={import.meta.env.VITE_YUCCA_SERVER}
    insights={insights}
  />,
);
