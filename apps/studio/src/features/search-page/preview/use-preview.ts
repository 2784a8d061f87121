import type { InterfacePage } from '@yucca/contract';
import { addressMap, type Query } from '@yucca/kit';
import { useEffect, useRef, useState } from 'react';
import { hearFrom, type FromPage, type ToPage } from './messages';
import { Outline } from './outline';
import { elementOf, nameOf, partAt } from './parts';

interface Previewed {
  page: InterfacePage;
  /** What the designer’s probe asks for; null until it does. */
  asked: Query | null;
}

/** What the address of a page asks for. */
export const queryOf = (page: InterfacePage): Query => addressMap(page.facets).read(window.location).query;

/**
 * The page as its designer has it now. In a frame of the studio it changes with every message and stays where it is: no
 * reload, nothing typed is lost. Elsewhere it is the page it was at first.
 */
export function usePreview(first: InterfacePage, on: boolean): Previewed {
  const [state, setState] = useState<Previewed>({ page: first, asked: null });
  const page = useRef(first);
  useEffect(() => {
    const designer = window.parent;
    if (!on || designer === window) return;
    const tell = (message: FromPage): void => designer.postMessage(message, window.location.origin);
    const outline = new Outline();
    let pointing = false;
    let worked: string | null = null;
    const outlineWorked = (): void => {
      const element = worked === null ? null : elementOf(worked);
      outline.show(element, element ? nameOf(element) : '');
    };
    const read = (): Query => queryOf(page.current);
    const onMessage = (message: ToPage): void => {
      if (message.yucca === 'hello') tell({ yucca: 'ready' });
      else if (message.yucca === 'page') {
        page.current = message.page;
        // What has been typed meanwhile is not in the address yet: it is left alone.
        setState(({ asked }) => ({ page: message.page, asked }));
      } else if (message.yucca === 'query') {
        const { q } = read();
        if (q !== message.q) setState({ page: page.current, asked: { ...read(), q: message.q, page: 1 } });
      } else if (message.yucca === 'pointing') {
        pointing = message.on;
        document.documentElement.style.cursor = pointing ? 'crosshair' : '';
        outlineWorked();
      } else if (message.yucca === 'outline') {
        worked = message.part;
        const element = worked === null ? null : elementOf(worked);
        element?.scrollIntoView({ block: 'nearest' });
        outlineWorked();
      } else document.documentElement.dataset.theme = message.scheme;
    };
    const onMove = (event: PointerEvent): void => {
      if (!pointing) return;
      const found = event.target instanceof Element ? partAt(event.target) : null;
      outline.show(found?.element ?? null, found?.name ?? '');
    };
    const onLeave = (): void => {
      if (pointing) outlineWorked();
    };
    const onClick = (event: MouseEvent): void => {
      if (!pointing) return;
      event.preventDefault();
      event.stopPropagation();
      const found = event.target instanceof Element ? partAt(event.target) : null;
      if (event.type === 'click' && found) tell({ yucca: 'chosen', part: found.part });
    };
    const onTyped = (event: Event): void => {
      const { target } = event;
      if (!(target instanceof HTMLInputElement) || target.name !== 'q') return;
      // So that the probe's text before is another one again.
      setState({ page: page.current, asked: { ...read(), q: target.value, page: 1 } });
      tell({ yucca: 'asked', q: target.value });
    };
    const stop = hearFrom<ToPage>(() => designer, onMessage);
    document.addEventListener('pointermove', onMove);
    document.documentElement.addEventListener('pointerleave', onLeave);
    for (const type of ['click', 'mousedown'] as const) document.addEventListener(type, onClick, true);
    document.addEventListener('input', onTyped);
    tell({ yucca: 'ready' });
    return () => {
      stop();
      outline.remove();
      document.removeEventListener('pointermove', onMove);
      document.documentElement.removeEventListener('pointerleave', onLeave);
      for (const type of ['click', 'mousedown'] as const) document.removeEventListener(type, onClick, true);
      document.removeEventListener('input', onTyped);
    };
  }, [on]);
  const { '--yucca-paper': background = '', '--yucca-scheme': colorScheme = '' } = state.page.theme ?? {};
  useEffect(() => {
    if (on) Object.assign(document.documentElement.style, { background, colorScheme });
  }, [on, background, colorScheme]);
  return state;
}
