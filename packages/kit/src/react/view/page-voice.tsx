import { useEffect, useState, type ComponentType } from 'react';
import type { VoiceButtonProps } from '../voice-button.tsx';

/** The button that takes a query by voice. Few pages have it and a server draws none: those that do fetch it. */
export function PageVoice(props: VoiceButtonProps) {
  const [Button, setButton] = useState<ComponentType<VoiceButtonProps> | null>(null);
  useEffect(() => {
    import('../voice-button.tsx').then(
      ({ VoiceButton }) => setButton(() => VoiceButton),
      // Without it everything can be typed.
      () => {},
    );
  }, []);
  return Button && <Button {...props} />;
}
