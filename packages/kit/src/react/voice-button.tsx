import type { VoiceTexts } from '../texts/voice.ts';
import { useTexts } from './use-texts.ts';
import { VoiceControl } from './voice-control.tsx';

/** What `VoiceButton` is given. */
export interface VoiceButtonProps {
  /** Takes what was understood so far, as letters are taken that are typed. */
  onText: (text: string) => void;
  /** Asks for what was understood in the end. */
  onAsk: (text: string) => void;
  /** What it says, and the language that is spoken, by its tag of BCP 47. Default: those of the page. */
  texts?: VoiceTexts;
  locale?: string;
}

/**
 * A button that takes a query by voice, for beside a field. It is drawn only in browsers that can listen, so a server
 * draws none. A second press stops; what could not be is said beside it.
 */
export function VoiceButton(props: VoiceButtonProps) {
  const page = useTexts().locale;
  return <VoiceControl {...props} locale={props.locale ?? page} />;
}
