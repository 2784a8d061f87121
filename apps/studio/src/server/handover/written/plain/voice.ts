/** A button that takes a query by voice, the same for every design. */
export const VOICE_FILE = `import { canListen, listen, voiceTexts, type VoiceTrouble } from '@yucca/kit/voice';
import { element } from './dom';
import { PAGE_TEXTS } from './texts';

const SAYS = voiceTexts(PAGE_TEXTS.locale);

/**
 * A button that takes a query by voice, word by word, until there is a pause; null where the browser cannot listen.
 * Many browsers send what they hear to a service of their maker, so it begins only when somebody presses it.
 */
export function voiceButton(onText: (text: string) => void, onAsk: (text: string) => void): HTMLElement | null {
  if (!canListen()) return null;
  const note = element('span', { role: 'status', 'data-part': 'note' });
  let stop: (() => void) | null = null;
  const onEnd = (text: string, trouble: VoiceTrouble | null): void => {
    stop = null;
    button.textContent = SAYS.speak;
    note.textContent = trouble === null ? '' : SAYS[trouble];
    if (text !== '') onAsk(text);
  };
  const press = (): void => {
    if (stop !== null) return stop();
    note.textContent = '';
    button.textContent = SAYS.stop;
    stop = listen({ locale: PAGE_TEXTS.locale, onText, onEnd });
  };
  const button = element('button', { type: 'button', 'data-part': 'button', onclick: press }, SAYS.speak);
  return element('span', { 'data-part': 'voice' }, button, note);
}
`;
