import { useTexts } from './use-texts.ts';
import { VoiceControl, type VoiceButtonProps } from './voice-control.tsx';

export type { VoiceButtonProps };

/**
 * A button that takes a query by voice, for beside a field. It is drawn only in browsers that can listen, so a server
 * draws none. A second press stops; what could not be is said beside it.
 */
export function VoiceButton(props: VoiceButtonProps) {
  const page = useTexts().locale;
  return <VoiceControl {...props} locale={props.locale ?? page} />;
}
