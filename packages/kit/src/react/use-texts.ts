import { createContext, useContext } from 'react';
import { ENGLISH_TEXTS, type Texts } from '../texts/texts.ts';

const context = /* @__PURE__ */ createContext<Texts>(ENGLISH_TEXTS);

/** Says in which language the parts below it speak: `value` is made by `textsOf`. English without one. */
export const TextsProvider = context.Provider;

/** The texts that stand above a part. */
export const useTexts = (): Texts => useContext(context);
