'use client';

import { interfacePage, withProperty } from '@yucca/contract';
import type { TextKey } from '@yucca/kit/texts';
import { MOMENTS } from '@yucca/kit/texts/moments';
import clsx from 'clsx';
import { useId, useRef, useState } from 'react';
import { languageFile, languageOf, pageNames, readLanguageFile, usualText } from '@/text/language-file';
import {
  languagesOf,
  languageTag,
  meantLanguage,
  missingTexts,
  shippedTexts,
  textProblem,
  type LanguageDocument,
} from '@/text/page-language';
import { Button } from '@/ui/button';
import { RemoveButton } from '@/ui/controls';
import { download } from '@/ui/download';
import { useDraft, useSetDesign } from '../draft';
import { languageName } from '@/ui/language-name';
import type { PageFacts } from '../facts';
import { MoveButtons, moved, Setting } from '../setting';

/** Languages offered by name; any other may be typed. */
const OFFERED =
  'en de fr es ja ar it nl pt pt-BR pl cs sv da nb fi tr uk ru el he fa hi th vi ko zh-Hans zh-Hant id ro hu'.split(
    ' ',
  );

/** What the page says, in each of its languages. */
export function TextsSection({
  facts,
  language,
  onLanguage,
}: {
  facts: PageFacts;
  /** The tag of the one that is shown. */
  language: string;
  onLanguage: (locale: string) => void;
}) {
  const [{ document }] = useDraft();
  const set = useSetDesign();
  const languages = languagesOf(document);
  const current = meantLanguage(document, language);
  const at = languages.indexOf(current);
  const put = (list: readonly LanguageDocument[], gesture?: string): void => {
    const isUsual = list.length === 1 && list[0]!.locale === 'en' && !list[0]!.texts && !list[0]!.labels;
    set('languages', isUsual ? undefined : [...list], gesture);
  };
  const change = ({ texts = {}, labels = {} }: Partial<LanguageDocument>, gesture?: string): void =>
    put(languages.with(at, languageOf(current.locale, texts, labels)), gesture);
  const missing = missingTexts(current);
  const names = pageNames(interfacePage(document, facts.parts));
  return (
    <>
      <h2 className="text-[15px]">Languages</h2>
      <ul className="grid gap-1">
        {languages.map(({ locale }, i) => (
          <li key={locale} className="grid grid-cols-[auto_1fr_auto] items-center gap-1">
            <MoveButtons
              what={languageName(locale)}
              at={i}
              count={languages.length}
              onMove={(from, to) => put(moved(languages, from, to))}
            />
            <button
              type="button"
              aria-pressed={i === at}
              onClick={() => onLanguage(locale)}
              className={clsx(
                'min-h-6 truncate text-left text-[13px]',
                i === at ? 'font-semibold' : 'text-soft hover:text-ink',
              )}
            >
              {languageName(locale)} <span className="figures text-xs text-soft">{locale}</span>
              {i === 0 && languages.length > 1 && (
                <span className="text-xs font-normal text-soft"> for who asks for none</span>
              )}
            </button>
            {languages.length > 1 && (
              <RemoveButton what={languageName(locale)} onRemove={() => put(languages.toSpliced(i, 1))} />
            )}
          </li>
        ))}
      </ul>
      <NewLanguage
        taken={languages.map(({ locale }) => locale)}
        onLanguage={(locale) => {
          put([...languages, { locale }]);
          onLanguage(locale);
        }}
      />
      <p className="text-xs text-soft">
        {shippedTexts(current.locale)
          ? `All texts come along in ${languageName(current.locale)}.`
          : `${missing.length} texts are in English until they are written.`}
      </p>
      <LanguageFiles
        language={current}
        names={names}
        onLanguage={(read) => {
          const known = languages.findIndex(({ locale }) => locale === read.locale);
          put(known === -1 ? [...languages, read] : languages.with(known, read));
          onLanguage(read.locale);
        }}
      />
      {at > 0 && (
        <>
          <h2 className="mt-2 text-[15px]">Names of the page in {languageName(current.locale)}</h2>
          {names.map((name) => (
            <label
              key={`${current.locale} ${name}`}
              className="grid grid-cols-[1fr_180px] items-center gap-2 text-[13px]"
            >
              <span className="truncate" title={name}>
                {name}
              </span>
              <input
                lang={current.locale}
                dir="auto"
                className="field min-w-0 py-0.5 text-[13px]"
                value={current.labels?.[name] ?? ''}
                placeholder={name}
                maxLength={200}
                onChange={({ target }) =>
                  change(
                    { ...current, labels: withProperty(current.labels ?? {}, name, target.value || undefined) },
                    `label ${name}`,
                  )
                }
              />
            </label>
          ))}
        </>
      )}
      <h2 className="mt-2 text-[15px]">Texts in {languageName(current.locale)}</h2>
      <p className="text-xs text-soft">
        A name in braces stands for a value: {'{total}'}. Plurals as in ICU MessageFormat.
      </p>
      {MOMENTS.map(({ title, texts }) => {
        const own = Object.keys(texts).filter((key) => current.texts?.[key] !== undefined).length;
        return (
          <details key={title} className="border-t border-line pt-1">
            <summary className="min-h-6 text-[13px] font-semibold">
              {title} {own > 0 && <span className="font-normal text-soft">({own} of its own)</span>}
            </summary>
            <div className="grid gap-2 pt-1 pb-2">
              {Object.entries(texts).map(([key, moment]) => (
                <OneText
                  key={`${current.locale} ${key}`}
                  name={key as TextKey}
                  moment={moment}
                  locale={current.locale}
                  value={current.texts?.[key]}
                  onText={(text) =>
                    change({ ...current, texts: withProperty(current.texts ?? {}, key, text) }, `text ${key}`)
                  }
                />
              ))}
            </div>
          </details>
        );
      })}
    </>
  );
}

/** One text with the moment it stands at. What cannot be used yet stays here, with why, and the page as it was. */
function OneText({
  name,
  moment,
  locale,
  value,
  onText,
}: {
  name: TextKey;
  moment: string;
  locale: string;
  value: string | undefined;
  onText: (text: string | undefined) => void;
}) {
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null);
  const usual = usualText(locale, name);
  const problem = typed === null || typed === '' ? null : textProblem(name, typed);
  return (
    <Setting
      isSet={value !== undefined}
      onReset={() => {
        setTyped(null);
        onText(undefined);
      }}
    >
      <label htmlFor={id} className="text-[13px]">
        {moment}
      </label>
      <textarea
        id={id}
        rows={usual.length > 42 ? 2 : 1}
        lang={locale}
        dir="auto"
        className="field mt-1 w-full resize-y text-[13px]"
        value={typed ?? value ?? ''}
        placeholder={usual}
        maxLength={500}
        aria-invalid={problem !== null}
        aria-describedby={problem === null ? undefined : `${id}-problem`}
        onChange={({ target }) => {
          const text = target.value.replaceAll('\n', ' ');
          const isUsable = text === '' || textProblem(name, text) === null;
          setTyped(isUsable ? null : text);
          if (isUsable) onText(text === '' ? undefined : text);
        }}
      />
      {problem !== null && (
        <p id={`${id}-problem`} role="alert" className="text-xs text-madder">
          Not used yet: {problem}.
        </p>
      )}
    </Setting>
  );
}

function NewLanguage({ taken, onLanguage }: { taken: readonly string[]; onLanguage: (locale: string) => void }) {
  const list = useId();
  const [text, setText] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const add = (): void => {
    const byName = OFFERED.find((tag) => languageName(tag).toLowerCase() === text.trim().toLowerCase());
    const locale = byName ?? languageTag(text.trim());
    if (locale === null) return setProblem(`“${text}” is no language tag, such as de or pt-BR.`);
    if (taken.includes(locale)) return setProblem(`${languageName(locale)} is in the list already.`);
    setText('');
    setProblem(null);
    onLanguage(locale);
  };
  return (
    <div>
      <div className="flex gap-2">
        <input
          aria-label="Add a language"
          placeholder="Add a language"
          list={list}
          className="field min-w-0 flex-1 py-0.5 text-[13px]"
          value={text}
          onChange={({ target }) => {
            setText(target.value);
            setProblem(null);
          }}
          onKeyDown={(event) => event.key === 'Enter' && add()}
        />
        <Button disabled={text.trim() === ''} onClick={add}>
          Add
        </Button>
      </div>
      <datalist id={list}>
        {OFFERED.filter((tag) => !taken.includes(tag)).map((tag) => (
          <option key={tag} value={languageName(tag)} />
        ))}
      </datalist>
      {problem !== null && (
        <p role="alert" className="mt-1 text-xs text-madder">
          {problem}
        </p>
      )}
    </div>
  );
}

/** The texts of a language as a file, out and in. */
function LanguageFiles({
  language,
  names,
  onLanguage,
}: {
  language: LanguageDocument;
  names: readonly string[];
  onLanguage: (language: LanguageDocument) => void;
}) {
  const input = useRef<HTMLInputElement>(null);
  const [said, setSaid] = useState<{ problem: boolean; text: string } | null>(null);
  const take = async (file: File): Promise<void> => {
    try {
      const { language: read, left } = readLanguageFile(JSON.parse(await file.text()));
      onLanguage(read);
      const more = left.length > 6 ? `; and ${left.length - 6} more` : '';
      setSaid({
        problem: false,
        text:
          left.length === 0
            ? `${file.name} was taken.`
            : `${file.name} was taken, but for: ${left.slice(0, 6).join('; ')}${more}`,
      });
    } catch (error) {
      setSaid({ problem: true, text: `${file.name} could not be taken: ${(error as Error).message}.` });
    }
  };
  const give = (): void => {
    const text = `${JSON.stringify(languageFile(language, names), null, 2)}\n`;
    download(new Blob([text], { type: 'application/json' }), `texts.${language.locale}.json`);
  };
  return (
    <div>
      <div className="flex gap-2">
        <Button onClick={give}>Export texts</Button>
        <Button onClick={() => input.current?.click()}>Import texts …</Button>
      </div>
      <input
        ref={input}
        type="file"
        className="sr-only"
        aria-label="A file of texts"
        accept=".json,application/json"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) void take(file);
          event.target.value = '';
        }}
      />
      <p
        role={said?.problem ? 'alert' : 'status'}
        className={clsx('text-xs', said?.problem ? 'text-madder' : 'text-soft')}
      >
        {said?.text}
      </p>
    </div>
  );
}
