'use client';

import {
  colourOf,
  STARTING_THEMES,
  THEME_COLOURS,
  themeFromTokens,
  themeTokens,
  TYPEFACES,
  withProperty,
  type Theme,
  type ThemeColour,
  type Typeface,
} from '@yucca/contract';
import { useRef, useState } from 'react';
import { Button } from '@/ui/button';
import { Choice, Slider } from '@/ui/controls';
import { download } from '@/ui/download';
import { useDraft, useSetDesign } from '../draft';
import { Setting } from '../setting';
import { weakPairs, type WeakPair } from '../contrast';

const COLOUR_WORDS: Record<ThemeColour, string> = {
  paper: 'Page',
  raised: 'Cards and fields',
  sunk: 'Below, pointed at',
  line: 'Rules',
  edge: 'Outlines',
  ink: 'Text',
  soft: 'Lesser text',
  accent: 'Accent',
  accentTint: 'Chosen',
  onAccent: 'Text on accent',
  mark: 'Marks',
  danger: 'Trouble',
};

const FACE_WORDS: Record<Typeface, string> = {
  system: 'of the visitor’s system',
  humanist: 'humanist',
  geometric: 'geometric',
  oldStyle: 'old style, with serifs',
  transitional: 'transitional, with serifs',
  slab: 'slab serifs',
  mono: 'of one width',
  bricolage: 'Bricolage Grotesque',
  instrument: 'Instrument Sans',
  plexMono: 'IBM Plex Mono',
};
const FACES = Object.keys(TYPEFACES) as Typeface[];
const USUAL = 'usual';

const MODES = ['light', 'dark'] as const;
type Mode = (typeof MODES)[number];

/** Colours, letters, corners: how the page looks, light and dark. */
export function ThemeSection() {
  const [{ document }] = useDraft();
  const set = useSetDesign();
  const theme = document.theme ?? {};
  const put = (next: Theme, gesture?: string): void =>
    set('theme', Object.keys(next).length === 0 ? undefined : next, gesture);
  const setOne = <N extends keyof Theme>(name: N, value: Theme[N] | undefined, gesture?: string): void =>
    put(withProperty(theme, name, value), gesture);
  const face = (name: 'text' | 'heading' | 'figures', label: string) => (
    <Choice
      label={label}
      value={theme[name] ?? USUAL}
      options={[[USUAL, 'as usual'], ...FACES.map((one) => [one, FACE_WORDS[one]] as const)]}
      onValue={(value) => setOne(name, value === USUAL ? undefined : (value as Typeface))}
    />
  );
  return (
    <>
      <fieldset>
        <legend className="mb-1 font-head font-semibold">Begin with</legend>
        <div className="grid grid-cols-2 gap-2">
          {STARTING_THEMES.map(({ name, about, theme: of }) => (
            <button
              key={name}
              type="button"
              title={about}
              aria-label={`${name}: ${about}`}
              aria-pressed={JSON.stringify(of) === JSON.stringify(theme)}
              onClick={() => put(of)}
              className="flex min-h-9 items-center gap-2 rounded-md border border-line bg-paper px-2 text-left text-[13px] hover:border-field-line aria-pressed:border-agave"
            >
              <Sample theme={of} />
              {name}
            </button>
          ))}
        </div>
      </fieldset>
      <Setting isSet={document.theme !== undefined} usual="no theme" onReset={() => set('theme', undefined)}>
        <Choice
          label="Light and dark"
          value={theme.scheme ?? 'both'}
          options={[
            ['both', 'as the visitor has it'],
            ['light', 'always light'],
            ['dark', 'always dark'],
          ]}
          onValue={(value) => setOne('scheme', value === 'both' ? undefined : value)}
        />
      </Setting>
      <Colours theme={theme} onTheme={put} />
      <h2 className="mt-2 text-[15px]">Letters and forms</h2>
      {face('text', 'Text')}
      {face('heading', 'Titles')}
      {face('figures', 'Numbers')}
      <Slider
        label="Corners, px"
        value={theme.corner ?? 6}
        min={0}
        max={24}
        onValue={(value) => setOne('corner', Math.round(value) === 6 ? undefined : Math.round(value), 'corner')}
      />
      <Slider
        label="Size of all"
        value={theme.size ?? 1}
        min={0.85}
        max={1.3}
        step={0.05}
        onValue={(value) => setOne('size', value === 1 ? undefined : value, 'size')}
      />
      <Choice
        label="Found letters"
        value={theme.marks ?? 'ground'}
        options={[
          ['ground', 'on a ground'],
          ['underline', 'underlined'],
          ['weight', 'bold'],
        ]}
        onValue={(value) => setOne('marks', value === 'ground' ? undefined : value)}
      />
      <TokenFiles theme={theme} onTheme={put} />
    </>
  );
}

/** A few of a theme's colours. */
function Sample({ theme }: { theme: Theme }) {
  const mode = theme.scheme === 'dark' ? 'dark' : 'light';
  return (
    <span aria-hidden="true" className="flex overflow-hidden rounded border border-line">
      {(['paper', 'accent', 'ink', 'mark'] as const).map((colour) => (
        <span key={colour} className="block h-5 w-3" style={{ background: colourOf(theme, mode, colour) }} />
      ))}
    </span>
  );
}

function Colours({ theme, onTheme }: { theme: Theme; onTheme: (theme: Theme, gesture?: string) => void }) {
  const setColour = (mode: Mode, colour: ThemeColour, hex: string): void =>
    onTheme({ ...theme, [mode]: { ...theme[mode], [colour]: hex } }, `${mode} ${colour}`);
  const modes = MODES.filter((mode) => (theme.scheme ?? 'both') === 'both' || theme.scheme === mode);
  const weak = modes.flatMap((mode) => weakPairs(theme, mode).map((pair) => ({ ...pair, mode })));
  return (
    <>
      <table className="w-full text-[13px]">
        <caption className="mb-1 text-left font-head font-semibold">Colours</caption>
        <thead>
          <tr className="text-left text-xs text-soft">
            <th className="font-normal">What for</th>
            {modes.map((mode) => (
              <th key={mode} className="w-16 font-normal">
                {mode}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {THEME_COLOURS.map((colour) => (
            <tr key={colour}>
              <th scope="row" className="text-left font-normal">
                {COLOUR_WORDS[colour]}
              </th>
              {modes.map((mode) => (
                <td key={mode}>
                  <input
                    type="color"
                    className="h-6 w-12"
                    aria-label={`${COLOUR_WORDS[colour]}, ${mode}`}
                    title={colourOf(theme, mode, colour)}
                    value={colourOf(theme, mode, colour)}
                    onChange={(event) => setColour(mode, colour, event.target.value)}
                  />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <div role="status">
        {weak.length === 0 ? (
          <p className="text-xs text-soft">Every pair of colours that meet is told apart well enough (WCAG 2.2 AA).</p>
        ) : (
          <ul className="grid gap-1 text-[13px]">
            {weak.map((pair) => (
              <Weak
                key={`${pair.mode} ${pair.colour} ${pair.ground}`}
                pair={pair}
                mode={pair.mode}
                onBetter={(hex) => setColour(pair.mode, pair.colour, hex)}
              />
            ))}
          </ul>
        )}
      </div>
    </>
  );
}

function Weak({ pair, mode, onBetter }: { pair: WeakPair; mode: Mode; onBetter: (hex: string) => void }) {
  const { colour, ground, contrast, least, better } = pair;
  return (
    <li className="text-madder">
      {COLOUR_WORDS[colour]} on {COLOUR_WORDS[ground].toLowerCase()}, {mode}:{' '}
      <span className="figures">{contrast.toFixed(1)}</span> of <span className="figures">{least}</span>{' '}
      {better === null ? (
        'no shade of it is enough there'
      ) : (
        <button type="button" className="link" onClick={() => onBetter(better)}>
          take <span className="figures">{better}</span>{' '}
          <span
            aria-hidden="true"
            className="inline-block size-3 rounded-sm border border-line"
            style={{ background: better }}
          />
        </button>
      )}
    </li>
  );
}

/** A theme as a file of design tokens, out and in. */
function TokenFiles({ theme, onTheme }: { theme: Theme; onTheme: (theme: Theme) => void }) {
  const input = useRef<HTMLInputElement>(null);
  const [said, setSaid] = useState<{ problem: boolean; text: string } | null>(null);
  const take = async (file: File): Promise<void> => {
    try {
      const { theme: read, left } = themeFromTokens(JSON.parse(await file.text()));
      if (Object.keys(read).length === 0) throw new Error('it holds no token that a theme has here');
      onTheme(read);
      setSaid({
        problem: false,
        text: left.length === 0 ? `${file.name} is the theme now.` : `Taken, but for: ${left.join('; ')}`,
      });
    } catch (error) {
      setSaid({ problem: true, text: `${file.name} could not be taken: ${(error as Error).message}.` });
    }
  };
  const give = (): void => {
    const text = `${JSON.stringify(themeTokens(theme), null, 2)}\n`;
    download(new Blob([text], { type: 'application/json' }), 'theme.tokens.json');
  };
  return (
    <div className="mt-2">
      <p className="mb-1 text-xs text-soft">Design tokens (DTCG), for and from other tools:</p>
      <div className="flex gap-2">
        <Button onClick={give}>Export tokens</Button>
        <Button onClick={() => input.current?.click()}>Import tokens …</Button>
        <input
          ref={input}
          type="file"
          accept=".json,application/json"
          className="sr-only"
          tabIndex={-1}
          aria-label="A file of design tokens"
          onChange={({ target }) => {
            const [file] = target.files ?? [];
            if (file) void take(file);
            target.value = '';
          }}
        />
      </div>
      {said && (
        <p role={said.problem ? 'alert' : 'status'} className={said.problem ? 'mt-1 text-madder' : 'mt-1 text-soft'}>
          {said.text}
        </p>
      )}
    </div>
  );
}
