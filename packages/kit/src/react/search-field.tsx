import { useEffect, useId, useRef, useState, type ComponentProps, type KeyboardEvent, type ReactNode } from 'react';
import type { Autocomplete, AutocompleteSnapshot } from '../autocomplete/autocomplete.ts';
import type { Offer, Section } from '../autocomplete/source.ts';
import { isCertain } from './composition.ts';
import { Marked } from './marked.tsx';
import { useTexts } from './use-texts.ts';
import type { Texts } from '../texts/texts.ts';

/** Class names for the parts; each also carries `data-part` with the same name, for plain style sheets. */
export interface SearchFieldClasses {
  root?: string;
  input?: string;
  popup?: string;
  list?: string;
  section?: string;
  heading?: string;
  offer?: string;
  preview?: string;
}

/** What `SearchField` is given. */
export interface SearchFieldProps {
  state: Autocomplete;
  snapshot: AutocompleteSnapshot;
  /** What is searched, for who cannot see the field. */
  label: string;
  /** The text in the field. */
  text: string;
  /** Every keystroke, not while an input method composes what may still become something else. */
  onText: (text: string) => void;
  /** An offer was chosen: with Enter, or by a click. */
  onChoose: (offer: Offer) => void;
  /** A row of the list. Default: its text with the typed part marked, its second line and its count. */
  renderOffer?: (offer: Offer, section: Section) => ReactNode;
  /** More about the row that is pointed at, beside the list. */
  renderPreview?: ((offer: Offer) => ReactNode) | undefined;
  /** What stands below the list: "All 42 results". */
  footer?: ReactNode;
  /** "8 offers: 3 plants, 2 guides", for who cannot see the list. */
  describe?: (snapshot: AutocompleteSnapshot) => string;
  classes?: SearchFieldClasses;
  /** For the input: name, placeholder, maxLength and so on. */
  input?: Omit<ComponentProps<'input'>, 'value' | 'onChange' | 'role'>;
}

/**
 * A search field that offers completions in sections: the combobox with a listbox of the ARIA Authoring Practices.
 * Arrows go through the rows and round, Home and End to the ends once a row is pointed at, Enter chooses, Escape closes
 * and then empties, Tab leaves, Shift+Delete forgets a past query. Inside a form it works without JavaScript as well.
 */
export function SearchField(props: SearchFieldProps) {
  const { state, snapshot, label, text, onText, onChoose, renderPreview, footer, classes = {}, input = {} } = props;
  const texts = useTexts();
  const { describe = (now: AutocompleteSnapshot) => counted(now, texts) } = props;
  const id = useId();
  const root = useRef<HTMLDivElement>(null);
  const [composing, setComposing] = useState(false);
  // What is shown while a letter is composed is the field's own business.
  const [composed, setComposed] = useState('');
  const lastKey = useRef('');
  const certain = useRef(false);
  const open = snapshot.open && snapshot.offers.length > 0;
  const pointed = open ? (snapshot.offers[snapshot.active] ?? null) : null;
  const idOf = (at: number): string => `${id}-offer-${at}`;

  useEffect(() => {
    if (!open) return;
    const onPointerDown = (event: PointerEvent): void => {
      // The path, not the target: from outside a shadow tree all that lies in it looks like its host.
      if (root.current && !event.composedPath().includes(root.current)) state.close();
    };
    document.addEventListener('pointerdown', onPointerDown);
    return () => document.removeEventListener('pointerdown', onPointerDown);
  }, [open, state]);
  useEffect(() => {
    if (pointed) root.current?.querySelector('[aria-selected="true"]')?.scrollIntoView?.({ block: 'nearest' });
  }, [pointed, snapshot.active]);

  const write = (next: string): void => {
    // The page asks first: its results are what is waited for.
    onText(next);
    state.type(next);
  };
  const choose = (offer: Offer): void => {
    state.close();
    onChoose(offer);
  };
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>): void => {
    lastKey.current = event.key;
    if (event.nativeEvent.isComposing) return;
    if (answersKey(event, { state, open, pointed, choose, text, write })) event.preventDefault();
    input.onKeyDown?.(event);
  };
  return (
    <div
      ref={root}
      data-part="search-field"
      className={classes.root}
      onBlur={(event) => !event.currentTarget.contains(event.relatedTarget) && state.close()}
    >
      <input
        type="search"
        autoComplete="off"
        autoCapitalize="off"
        spellCheck={false}
        {...input}
        data-part="input"
        className={classes.input}
        role="combobox"
        aria-label={label}
        aria-autocomplete="list"
        aria-expanded={open}
        aria-controls={`${id}-list`}
        aria-activedescendant={pointed ? idOf(snapshot.active) : undefined}
        value={composing ? composed : text}
        onChange={(event) => {
          if (composing) setComposed(event.target.value);
          // The update comes before the letters are in the field.
          if (!composing || certain.current) write(event.target.value);
        }}
        onCompositionStart={(event) => {
          setComposed(event.currentTarget.value);
          setComposing(true);
          certain.current = false;
        }}
        onCompositionUpdate={(event) => (certain.current = isCertain(event.data, lastKey.current))}
        onCompositionEnd={(event) => {
          setComposing(false);
          if (event.currentTarget.value !== text) write(event.currentTarget.value);
        }}
        onClick={() => state.open()}
        onKeyDown={onKeyDown}
      />
      <div
        data-part="popup"
        data-preview={pointed !== null && renderPreview !== undefined}
        className={classes.popup}
        hidden={!open}
      >
        <div id={`${id}-list`} role="listbox" aria-label={label} data-part="list" className={classes.list}>
          {open && <Sections {...props} classes={classes} id={id} idOf={idOf} choose={choose} />}
        </div>
        {pointed && renderPreview && (
          <div data-part="preview" className={classes.preview} aria-hidden="true">
            {renderPreview(pointed)}
          </div>
        )}
        {footer}
      </div>
      <div role="status" style={HIDDEN}>
        {snapshot.open && !snapshot.loading ? describe(snapshot) : ''}
      </div>
    </div>
  );
}

/** Out of sight, not out of hearing. */
const HIDDEN = {
  position: 'absolute',
  width: 1,
  height: 1,
  overflow: 'hidden',
  clipPath: 'inset(50%)',
  whiteSpace: 'nowrap',
} as const;

function counted({ offers, sections }: AutocompleteSnapshot, { say, count }: Texts): string {
  if (offers.length === 0) return '';
  const parts = sections.map(({ label, offers: rows }) => `${label} ${count(rows.length)}`);
  return say('offered', { count: offers.length, sections: parts.join(', ') });
}

interface KeyContext {
  state: Autocomplete;
  open: boolean;
  pointed: Offer | null;
  choose: (offer: Offer) => void;
  text: string;
  write: (text: string) => void;
}

/** What a key does; returns whether it did something and the browser shall not. */
function answersKey(event: KeyboardEvent, { state, open, pointed, choose, text, write }: KeyContext): boolean {
  switch (event.key) {
    case 'ArrowDown':
    case 'ArrowUp':
      if (event.altKey && event.key === 'ArrowUp') state.close();
      else if (!open) state.open();
      else state.move(event.key === 'ArrowDown' ? 'next' : 'previous');
      return true;
    case 'Home':
    case 'End':
      // Without a row pointed at, these keys belong to the text.
      if (!pointed) return false;
      state.move(event.key === 'Home' ? 'first' : 'last');
      return true;
    case 'Enter':
      if (pointed) choose(pointed);
      else state.close();
      return pointed !== null;
    case 'Escape':
      if (open) state.close();
      else if (text !== '') {
        write('');
        state.close();
      }
      return true;
    case 'Tab':
      state.close();
      return false;
    case 'Delete':
      return event.shiftKey && state.remove(pointed);
    default:
      return false;
  }
}

function Sections({
  state,
  snapshot,
  renderOffer = (offer) => <DefaultOffer offer={offer} />,
  classes = {},
  id,
  idOf,
  choose,
}: SearchFieldProps & { id: string; idOf: (at: number) => string; choose: (offer: Offer) => void }) {
  const { say, count } = useTexts();
  let at = 0;
  return snapshot.sections.map((section) => {
    const heading = `${id}-${section.name}`;
    return (
      <div key={section.name} role="group" aria-labelledby={heading} data-part="section" className={classes.section}>
        <div id={heading} data-part="heading" className={classes.heading} role="presentation">
          {section.label}
          {section.total !== undefined && <span data-part="total"> {count(section.total)}</span>}
        </div>
        {section.offers.map((offer) => {
          const place = at++;
          return (
            <div
              key={offer.id}
              id={idOf(place)}
              role="option"
              aria-selected={place === snapshot.active}
              data-part="offer"
              data-kind={offer.kind}
              className={classes.offer}
              // The field keeps the focus: a press on a row must not take it.
              onPointerDown={(event) => event.preventDefault()}
              onPointerMove={() => state.point(place)}
              onClick={() => choose(offer)}
            >
              {renderOffer(offer, section)}
              {offer.removable && (
                <span
                  data-part="forget"
                  title={say('forget')}
                  onClick={(event) => {
                    event.stopPropagation();
                    state.remove(offer);
                  }}
                >
                  ×
                </span>
              )}
            </div>
          );
        })}
      </div>
    );
  });
}

function DefaultOffer({ offer }: { offer: Offer }) {
  const { count } = useTexts();
  return (
    <>
      {/* eslint-disable-next-line @next/next/no-img-element -- the kit knows no framework */}
      {offer.picture && <img src={offer.picture} alt="" width={32} height={32} />}
      <span>
        <Marked text={offer.text} ranges={offer.ranges} />
        {offer.detail && <small>{offer.detail}</small>}
      </span>
      {offer.count !== undefined && <span data-part="count">{count(offer.count)}</span>}
    </>
  );
}
