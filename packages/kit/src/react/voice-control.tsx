import { useEffect, useRef, useState, useSyncExternalStore } from 'react';
import { voiceTexts, type VoiceTexts } from '../texts/voice.ts';
import { canListen, listen, type VoiceTrouble } from '../voice.ts';

/** What `VoiceButton` is given. */
export interface VoiceButtonProps {
  /** Takes what was understood so far, as letters are taken that are typed. */
  onText: (text: string) => void;
  /** Asks for what was understood in the end. */
  onAsk: (text: string) => void;
  /** What it says, and the language that is spoken, by its tag of BCP 47. Default: those of the page. */
  texts?: VoiceTexts | undefined;
  locale?: string | undefined;
}

// Few pages have it: it brings what it needs, and takes the rest from the page.
const BESIDE = { position: 'relative', display: 'flex' } as const;
const STILL = { strokeWidth: 1.5, strokeLinecap: 'round' } as const;
const LISTENING = { ...STILL, fill: 'currentColor' } as const;
const BUTTON = { minHeight: 48 } as const;
const NOTE = { position: 'absolute', top: '100%', insetInlineEnd: 0, width: 'max-content', maxWidth: 260 } as const;

const never = (): (() => void) => () => {};

/**
 * The button by itself. It shares nothing with a page but React: so a page that fetches it is not parted for its sake.
 */
export function VoiceControl(props: VoiceButtonProps) {
  const { locale = 'en' } = props;
  const texts = props.texts ?? voiceTexts(locale);
  const isAble = useSyncExternalStore(never, canListen, () => false);
  const [isListening, setListening] = useState(false);
  const [trouble, setTrouble] = useState<VoiceTrouble | null>(null);
  const stop = useRef<(() => void) | null>(null);
  // Somebody may choose a filter while they speak: what is told later is told to the page as it is then.
  const newest = useRef(props);
  useEffect(() => {
    newest.current = props;
  });
  const isGone = useRef(false);
  useEffect(() => {
    isGone.current = false;
    return () => {
      isGone.current = true;
      stop.current?.();
    };
  }, []);
  if (!isAble) return null;
  const press = (): void => {
    if (stop.current !== null) return stop.current();
    setTrouble(null);
    setListening(true);
    stop.current = listen({
      locale,
      onText: (text) => newest.current.onText(text),
      onEnd: (text, why) => {
        stop.current = null;
        if (isGone.current) return;
        setListening(false);
        setTrouble(why);
        if (text !== '') newest.current.onAsk(text);
      },
    });
  };
  const says = isListening ? texts.stop : texts.speak;
  return (
    <span data-part="voice" data-listening={isListening} style={BESIDE}>
      <button type="button" data-part="button" style={BUTTON} aria-label={says} title={says} onClick={press}>
        <svg viewBox="0 0 20 20" width="20" height="20" fill="none" stroke="currentColor" aria-hidden="true">
          <path
            d="M10 2.5a2.5 2.5 0 0 1 2.5 2.5v5a2.5 2.5 0 0 1-5 0V5A2.5 2.5 0 0 1 10 2.5ZM5 9.5v.5a5 5 0 0 0 10 0v-.5M10 15v3"
            style={isListening ? LISTENING : STILL}
          />
        </svg>
      </button>
      <span role="status" data-part="note" style={NOTE}>
        {trouble && texts[trouble]}
      </span>
    </span>
  );
}
