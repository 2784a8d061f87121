export { voiceTexts, type VoiceTexts } from './texts/voice.ts';

/** What went wrong while a browser listened: it may not, there is no microphone or service, or it heard nothing. */
export type VoiceTrouble = 'denied' | 'unavailable' | 'nothing';

/** What `listen` is given. */
export interface VoiceOptions {
  /** The language that is spoken, as a tag of BCP 47. Default: the browser's. */
  locale?: string | undefined;
  /** Takes what was understood so far; with each word it may be another text. */
  onText: (text: string) => void;
  /** It is over: `text` is what was understood in the end, empty for nothing; `trouble` says why it could not be. */
  onEnd: (text: string, trouble: VoiceTrouble | null) => void;
}

/** Speech recognition as browsers have it, so far as it is used here. */
interface Recognition extends EventTarget {
  lang: string;
  interimResults: boolean;
  start: () => void;
  abort: () => void;
}
interface RecognitionEvent extends Event {
  /** One for each stretch of what was said, with what it may have been: the likeliest first. */
  readonly results: ArrayLike<ArrayLike<{ readonly transcript: string }>>;
}
type RecognitionClass = new () => Recognition;

/** Some browsers still call it by a name of before the standard. */
const classHere = (): RecognitionClass | undefined => {
  const names = globalThis as { SpeechRecognition?: RecognitionClass; webkitSpeechRecognition?: RecognitionClass };
  return names.SpeechRecognition ?? names.webkitSpeechRecognition;
};

/** Whether this browser can listen at all; false on a server. */
export const canListen = (): boolean => classHere() !== undefined;

/** What a browser calls trouble, by who can do something about it; for the rest nobody can. */
const TROUBLES: Readonly<Record<string, VoiceTrouble | null>> = {
  'not-allowed': 'denied',
  'service-not-allowed': 'denied',
  'no-speech': 'nothing',
  aborted: null,
};

/**
 * Listens to what a visitor says, until there is a pause (Web Speech API, WICG draft). Many browsers send what they
 * hear to a service of their maker: begin only when somebody presses a button, never by yourself.
 *
 * @returns what ends it early: what was understood by then is told to `onEnd`
 */
export function listen({ locale, onText, onEnd }: VoiceOptions): () => void {
  const Class = classHere();
  let text = '';
  let trouble: VoiceTrouble | null = null;
  let isOver = false;
  const end = (): void => {
    if (isOver) return;
    isOver = true;
    onEnd(text, text === '' ? trouble : null);
  };
  const fail = (): void => {
    trouble = 'unavailable';
    // Nobody is told before they know what ends it.
    queueMicrotask(end);
  };
  if (Class === undefined) {
    fail();
    return end;
  }
  const recognition = new Class();
  if (locale !== undefined) recognition.lang = locale;
  recognition.interimResults = true;
  recognition.addEventListener('result', (event) => {
    if (isOver) return;
    const heard = Array.from((event as RecognitionEvent).results, (guesses) => guesses[0]?.transcript ?? '');
    text = asQuery(heard.join(' '));
    onText(text);
  });
  recognition.addEventListener('error', (event) => {
    const { error } = event as Event & { error: string };
    trouble = Object.hasOwn(TROUBLES, error) ? TROUBLES[error]! : 'unavailable';
  });
  recognition.addEventListener('end', end);
  try {
    recognition.start();
  } catch (error) {
    // Another page of this browser listens already.
    if (!(error instanceof DOMException)) throw error;
    fail();
  }
  return () => {
    end();
    recognition.abort();
  };
}

/** Services write sentences; nobody types the full stop of a query. */
const asQuery = (heard: string): string =>
  heard
    .replace(/\s+/gu, ' ')
    .replace(/[.!?。！？؟।]+\s*$/u, '')
    .trim();
