import type { RecordJson } from '@yucca/contract';
import type { ReactNode } from 'react';
import type { SearchSnapshot } from '../../search-state.ts';
import type { ResultOf } from '../../typed.ts';

/** What a part beside the field can do with it. */
export interface FieldActions {
  /** Takes a text as letters are taken that are typed. */
  onText: (text: string) => void;
  /** Asks for a text for good: it becomes a step of the history. */
  onAsk: (text: string) => void;
}

/**
 * Parts of the page that an application draws itself. Each is given what the page shows now, and what would be drawn in
 * its place: to leave away, to put something beside, to wrap. `R`: the type of the records.
 */
export interface OwnParts<R extends object = RecordJson> {
  /** Above the field. */
  renderHeader?: (shown: SearchSnapshot<R>) => ReactNode;
  /** The field with its completions: to put something beside it, such as `VoiceButton`. */
  renderField?: (search: FieldActions, usual: ReactNode) => ReactNode;
  /** Above the results while nothing is asked for; by itself the text of the page's design, if it has one. */
  renderStart?: (shown: SearchSnapshot<R>, usual: ReactNode) => ReactNode;
  /** When nothing is found; by itself what else might be tried. */
  renderNothing?: (shown: SearchSnapshot<R>, usual: ReactNode) => ReactNode;
  /** All filters. */
  renderFilters?: (shown: SearchSnapshot<R>, usual: ReactNode) => ReactNode;
  /** One filter, by the name of its facet. Keep it the same from one time to the next. */
  renderFacet?: (facet: string, usual: ReactNode) => ReactNode;
  /**
   * One result: its card by itself. `place`: among all results, from 1, for what stands between them. Keep it the same
   * from one time to the next.
   */
  renderResult?: (result: ResultOf<R>, card: ReactNode, place: number) => ReactNode;
}
