import { useEffect, useState, type ComponentType } from 'react';
import type { VoiceButtonProps } from '../voice-control.tsx';

/** The button that takes a query by voice. Few pages have it and a server draws none: those that do fetch it. */
export function PageVoice(props: VoiceButtonProps) {
  const [voice, setVoice] = useState<{ VoiceControl: ComponentType<VoiceButtonProps> }>();
  useEffect(() => {
    // Without it everything can be typed.
    import('../voice-control.tsx').then(setVoice, () => {});
  }, []);
  return voice && <voice.VoiceControl {...props} />;
}
