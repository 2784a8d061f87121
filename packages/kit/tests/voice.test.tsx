/** @jest-environment jsdom */
import { act, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { StrictMode } from 'react';
import { renderToString } from 'react-dom/server';
import { createMemory, type YuccaClient } from '../src/index.ts';
import { SearchView, TextsProvider } from '../src/react/index.ts';
import { VoiceButton } from '../src/react/voice-button.tsx';
import { textsOf } from '../src/texts/index.ts';
import { VOICE_TEXTS } from '../src/texts/voice.ts';
import { canListen, listen, type VoiceTrouble } from '../src/voice.ts';
import { answerWith, pageWith, plants } from './answers.ts';

/** What a browser would hear; a test says it. */
class HeardHere extends EventTarget {
  static made: HeardHere[] = [];
  lang = '';
  interimResults = false;
  state = 'new';
  constructor() {
    super();
    HeardHere.made.push(this);
  }
  start = (): void => {
    this.state = 'started';
  };
  abort = (): void => {
    this.state = 'aborted';
    this.error('aborted');
    this.end();
  };
  /** One stretch of speech after the other, with what each may have been. */
  hear = (...stretches: string[][]): void => {
    // As in browsers: these have a length and numbers, and cannot be iterated.
    const listLike = <T,>(items: readonly T[]) => ({ ...items, length: items.length });
    const results = listLike(stretches.map((ones) => listLike(ones.map((transcript) => ({ transcript })))));
    this.dispatchEvent(Object.assign(new Event('result'), { results }));
  };
  error = (error: string): void => void this.dispatchEvent(Object.assign(new Event('error'), { error }));
  end = (): void => void this.dispatchEvent(new Event('end'));
}
const browser = globalThis as { SpeechRecognition?: unknown; webkitSpeechRecognition?: unknown };
const newest = (): HeardHere => HeardHere.made.at(-1)!;

beforeEach(() => {
  browser.SpeechRecognition = HeardHere;
  HeardHere.made = [];
});
afterEach(() => {
  delete browser.SpeechRecognition;
  delete browser.webkitSpeechRecognition;
});

/** Listens, and notes what it is told. */
function listening(locale?: string) {
  const told: unknown[] = [];
  const stop = listen({
    locale,
    onText: (text) => void told.push(text),
    onEnd: (text, trouble) => void told.push([text, trouble]),
  });
  return { told, stop };
}

test('what is understood is told as it grows, without the full stop of a sentence', () => {
  const { told } = listening('de');
  expect([newest().lang, newest().interimResults, newest().state]).toEqual(['de', true, 'started']);
  newest().hear(['roter', 'rote']);
  newest().hear(['roter'], [' Ahorn ', 'Arm']);
  newest().hear(['roter'], [' Ahorn. ']);
  newest().end();
  newest().hear(['too late']);
  expect(told).toEqual(['roter', 'roter Ahorn', 'roter Ahorn', ['roter Ahorn', null]]);
});

test.each<[string, VoiceTrouble | null]>([
  ['not-allowed', 'denied'],
  ['service-not-allowed', 'denied'],
  ['no-speech', 'nothing'],
  ['audio-capture', 'unavailable'],
  ['network', 'unavailable'],
  ['constructor', 'unavailable'],
  ['aborted', null],
])('%s is told as %s', (error, trouble) => {
  const { told } = listening();
  newest().error(error);
  newest().end();
  newest().end();
  expect(told).toEqual([['', trouble]]);
});

test('what was understood before the line broke is asked for; ended early, it is over at once', () => {
  const broken = listening();
  newest().hear(['fern']);
  newest().error('network');
  newest().end();
  expect(broken.told.at(-1)).toEqual(['fern', null]);
  const { told, stop } = listening();
  newest().hear(['moss?']);
  stop();
  expect([told, newest().state]).toEqual([['moss', ['moss', null]], 'aborted']);
});

test('a browser that cannot listen, or does already: said, and not before anybody knows what ends it', async () => {
  delete browser.SpeechRecognition;
  expect(canListen()).toBe(false);
  const { told } = listening();
  expect(told).toEqual([]);
  await Promise.resolve();
  expect(told).toEqual([['', 'unavailable']]);
  browser.webkitSpeechRecognition = class extends HeardHere {
    override start = (): void => {
      throw new DOMException('recognition has already started', 'InvalidStateError');
    };
  };
  expect(canListen()).toBe(true);
  const second = listening();
  await Promise.resolve();
  expect(second.told).toEqual([['', 'unavailable']]);
});

test('a press listens, a second one stops; a page that goes asks for nothing', async () => {
  const asked: string[] = [];
  const { unmount } = render(
    <StrictMode>
      <VoiceButton onText={(text) => void asked.push(`… ${text}`)} onAsk={(text) => void asked.push(text)} />
    </StrictMode>,
  );
  await userEvent.click(screen.getByRole('button', { name: 'Search by voice' }));
  act(() => newest().hear(['fern']));
  await userEvent.click(screen.getByRole('button', { name: 'Stop listening' }));
  expect([asked, newest().state]).toEqual([['… fern', 'fern'], 'aborted']);
  await userEvent.click(screen.getByRole('button', { name: 'Search by voice' }));
  act(() => newest().error('not-allowed'));
  act(() => newest().end());
  expect(screen.getByRole('status').textContent).toBe(
    'This page may not use the microphone. Allow it in your browser.',
  );
  await userEvent.click(screen.getByRole('button', { name: 'Search by voice' }));
  expect(screen.getByRole('status').textContent).toBe('');
  act(() => newest().hear(['moss']));
  unmount();
  expect([asked.slice(2), newest().state, HeardHere.made.length]).toEqual([['… moss'], 'aborted', 3]);
});

test('it speaks and listens in the language of its page, and stands only where a browser can listen', () => {
  const german = (
    <TextsProvider value={textsOf('de-AT')}>
      <VoiceButton onText={() => {}} onAsk={() => {}} />
    </TextsProvider>
  );
  expect(renderToString(german)).toBe('');
  render(german);
  act(() => screen.getByRole('button', { name: 'Mit der Stimme suchen' }).click());
  expect(newest().lang).toBe('de-AT');
});

test('every language says everything', () => {
  for (const [language, texts] of Object.entries(VOICE_TEXTS)) {
    expect([language, Object.keys(texts)]).toEqual([language, Object.keys(VOICE_TEXTS.en!)]);
    expect(Object.values(texts).every((text) => text !== '')).toBe(true);
  }
  expect(Object.keys(VOICE_TEXTS)).toEqual(['en', 'de', 'fr', 'es', 'ja', 'ar']);
});

test('on a whole page results follow what is said; a filter chosen meanwhile stays; it is remembered', async () => {
  window.history.replaceState(null, '', '/s/nursery');
  window.scrollTo = (() => {}) as typeof window.scrollTo;
  const asked: { q?: string; sort?: string }[] = [];
  const client = {
    search: async (_: string, request: { q?: string; sort?: string }) => {
      asked.push(request);
      return answerWith({ total: 95, results: plants(3), facets: {} });
    },
  };
  const memory = createMemory('voice', null);
  render(
    <SearchView
      page={pageWith({ sorts: [{ name: 'price', label: 'Price' }] })}
      client={client as unknown as YuccaClient}
      memory={memory}
      renderField={(field, usual) => (
        <>
          {usual}
          <VoiceButton {...field} />
        </>
      )}
    />,
  );
  await userEvent.click(await screen.findByRole('button', { name: 'Search by voice' }));
  act(() => newest().hear(['red']));
  await waitFor(() => expect(asked.at(-1)).toMatchObject({ q: 'red' }));
  expect(screen.getByRole<HTMLInputElement>('combobox', { name: /search/i }).value).toBe('red');
  await userEvent.selectOptions(await screen.findByRole('combobox', { name: 'Sort by' }), 'price');
  act(() => newest().hear(['red'], ['maple.']));
  act(() => newest().end());
  await waitFor(() => expect(asked.at(-1)).toMatchObject({ q: 'red maple', sort: 'price' }));
  expect(window.location.search).toBe('?q=red+maple&sort=price');
  expect(memory.queries()).toEqual(['red maple']);
});

test('a page whose design says so has the button; it is fetched when the page is there, and a server draws none', async () => {
  const client = { search: async () => answerWith({ total: 3, results: plants(3), facets: {} }) };
  const view = (voice: boolean) => (
    <SearchView
      page={pageWith({ typing: { voice } })}
      client={client as unknown as YuccaClient}
      memory={createMemory('voice', null)}
    />
  );
  expect(renderToString(view(true))).not.toContain('data-part="voice"');
  const { unmount } = render(view(true));
  expect((await screen.findByRole('button', { name: 'Search by voice' })).closest('[data-part=bar]')).not.toBeNull();
  unmount();
  render(view(false));
  await waitFor(() => expect(document.querySelector('article')).not.toBeNull());
  expect(screen.queryByRole('button', { name: 'Search by voice' })).toBeNull();
});
