import { SearchView } from '@yucca/kit/react';
import { VoiceButton } from '@yucca/kit/react/voice';
import '@yucca/kit/styles.css';
import { createRoot } from 'react-dom/client';
import { client } from './client';

createRoot(document.getElementById('shop')!).render(
  <SearchView
    page={await client.page('nursery')}
    client={client}
    here="/voice.html"
    renderField={(field, usual) => (
      <>
        {usual}
        <VoiceButton {...field} />
      </>
    )}
  />,
);
