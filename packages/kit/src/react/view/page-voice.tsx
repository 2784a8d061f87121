import { useEffect, useState, type ComponentType } from 'react';
import type { VoiceControlProps } from '../voice-control.tsx';

/** The button that takes a query by voice. Few pages have it and a server draws none: those that do fetch it. */
export function PageVoice(props: VoiceControlProps) {
  const [voice, setVoice] = useState<{ VoiceControl: ComponentType<VoiceControlProps> } | null>(null);
  useEffect(() => {
    // Without it everything can be typed.
    import('../voice-control.tsx').then(setVoice, () => {});
  }, []);
  return voice && <voice.VoiceControl {...props} />;
}
