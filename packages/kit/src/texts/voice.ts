import type { VoiceTrouble } from '../voice.ts';

/** What `VoiceButton` says. */
export interface VoiceTexts extends Readonly<Record<VoiceTrouble, string>> {
  /** On the button. */
  speak: string;
  /** On the button while it listens. */
  stop: string;
}

/** What `VoiceButton` says in a language, by its tag (BCP 47); in English where it does not come along. */
export function voiceTexts(locale: string): VoiceTexts {
  const language = locale.split('-')[0]!;
  return Object.hasOwn(VOICE_TEXTS, language) ? VOICE_TEXTS[language]! : VOICE_TEXTS.en!;
}

/** By the language; apart from the texts of a page, because few pages have the button. */
export const VOICE_TEXTS: Readonly<Record<string, VoiceTexts>> = {
  en: {
    speak: 'Search by voice',
    stop: 'Stop listening',
    denied: 'This page may not use the microphone. Allow it in your browser.',
    unavailable: 'Your browser cannot listen just now.',
    nothing: 'Nothing was heard.',
  },
  de: {
    speak: 'Mit der Stimme suchen',
    stop: 'Nicht mehr zuhören',
    denied: 'Diese Seite darf das Mikrofon nicht benutzen. Erlauben Sie es in Ihrem Browser.',
    unavailable: 'Ihr Browser kann gerade nicht zuhören.',
    nothing: 'Es war nichts zu hören.',
  },
  fr: {
    speak: 'Rechercher à la voix',
    stop: 'Arrêter l’écoute',
    denied: 'Cette page ne peut pas utiliser le micro. Autorisez-la dans votre navigateur.',
    unavailable: 'Votre navigateur ne peut pas écouter pour l’instant.',
    nothing: 'Rien n’a été entendu.',
  },
  es: {
    speak: 'Buscar por voz',
    stop: 'Dejar de escuchar',
    denied: 'Esta página no puede usar el micrófono. Permítalo en su navegador.',
    unavailable: 'Su navegador no puede escuchar ahora mismo.',
    nothing: 'No se ha oído nada.',
  },
  ja: {
    speak: '音声で検索',
    stop: '聞き取りを終了',
    denied: 'このページはマイクを使えません。ブラウザーで許可してください。',
    unavailable: '今はブラウザーで聞き取れません。',
    nothing: '何も聞き取れませんでした。',
  },
  ar: {
    speak: 'البحث بالصوت',
    stop: 'إيقاف الاستماع',
    denied: 'لا يُسمح لهذه الصفحة باستخدام الميكروفون. اسمح بذلك في متصفحك.',
    unavailable: 'لا يستطيع متصفحك الاستماع الآن.',
    nothing: 'لم يُسمع شيء.',
  },
};
