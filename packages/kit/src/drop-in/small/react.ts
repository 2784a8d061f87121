/**
 * As much of React as the parts use, over Preact, for the drop-in: Preact's own layer for it brings all of React, and
 * is a tenth of the script. What is missing here fails when the script is built, or in the tests that drive it in
 * Chromium.
 */
import { h, options, type ComponentChildren, type FunctionComponent, type VNode } from 'preact';
import { useEffect, useRef, useState } from 'preact/hooks';

export { createContext, Fragment } from 'preact';
export { useCallback, useContext, useEffect, useId, useMemo, useRef, useState } from 'preact/hooks';

export const startTransition = (run: () => void): void => run();

type Props = Record<string, unknown>;

const differs = (a: Props, b: Props): boolean =>
  Object.keys(a).some((name) => !(name in b)) || Object.keys(b).some((name) => a[name] !== b[name]);

/** Draws a component again only when its properties differ. */
export function memo(draw: FunctionComponent<Props>): FunctionComponent<Props> {
  return function Memo(this: { props: Props; shouldComponentUpdate?: (next: Props) => boolean }, props: Props) {
    this.shouldComponentUpdate = (next) => differs(this.props, next);
    return h(draw, props);
  } as FunctionComponent<Props>;
}

export function useSyncExternalStore<T>(subscribe: (listener: () => void) => () => void, get: () => T): T {
  const value = get();
  const [, drawAgain] = useState({});
  const drawnRef = useRef(value);
  useEffect(() => {
    drawnRef.current = value;
  });
  useEffect(() => {
    const check = (): void => {
      if (drawnRef.current !== get()) drawAgain({});
    };
    check();
    return subscribe(check);
  }, [subscribe, get]);
  return value;
}

/** React's names of events and attributes, where Preact has the browser's. */
const NAMES: Readonly<Record<string, string>> = {
  onBlur: 'onFocusOut',
  onCompositionStart: 'oncompositionstart',
  onCompositionUpdate: 'oncompositionupdate',
  onCompositionEnd: 'oncompositionend',
  textAnchor: 'text-anchor',
  defaultValue: 'value',
};

const before = options.vnode;
options.vnode = (node: VNode) => {
  if (typeof node.type === 'string') {
    const props = node.props as Props & { children?: ComponentChildren };
    for (const name of Object.keys(props)) {
      // A field is heard with every letter, a box when it is ticked.
      const isText: boolean = name === 'onChange' && node.type === 'input' && !/^(check|rad)/.test(String(props.type));
      const own = isText ? 'onInput' : NAMES[name];
      if (own === undefined) continue;
      props[own] = props[name];
      delete props[name];
    }
  }
  before?.(node);
};
options.event = (event) => Object.assign(event, { nativeEvent: event });
