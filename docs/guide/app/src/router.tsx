import { addressMap } from '@yucca/kit';
import { SearchView } from '@yucca/kit/react';
import '@yucca/kit/styles.css';
import { createRoot } from 'react-dom/client';
import { BrowserRouter, Link, Route, Routes, useLocation, useNavigate, useParams } from 'react-router';
import { client } from './client';

const page = await client.page('nursery');
const addresses = addressMap(page.facets);

function Plants() {
  const navigate = useNavigate();
  const { query } = addresses.read(useLocation());
  return (
    <>
      <Link to="/?q=fern">Ferns</Link>
      <SearchView
        page={page}
        client={client}
        query={query}
        here="/"
        recordHref={({ id }) => `/plants/${encodeURIComponent(id)}`}
        navigate={(href) => void navigate(href)}
      />
    </>
  );
}

function Plant() {
  const { id } = useParams();
  return (
    <article>
      <h1>Plant {id}</h1>
      <Link to="/?colour=blue">Blue plants</Link>
    </article>
  );
}

createRoot(document.getElementById('shop')!).render(
  <BrowserRouter>
    <Routes>
      <Route path="/" element={<Plants />} />
      <Route path="/plants/:id" element={<Plant />} />
    </Routes>
  </BrowserRouter>,
);
