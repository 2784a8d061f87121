/**
 * How a business number becomes a score: what each shape is called on screen, and whether it is one of dates. A new one
 * is a line here and its curve in the engine's `signals/shapes.ts`.
 */
export const SIGNAL_SHAPES = {
  linear: { title: 'linear', ofDates: false },
  log: { title: 'log: few large ones', ofDates: false },
  recency: { title: 'recency: the newer', ofDates: true },
} as const;

export type SignalShape = keyof typeof SIGNAL_SHAPES;

/** The names of the shapes, for schemas. */
export const SIGNAL_SHAPE_NAMES = Object.keys(SIGNAL_SHAPES) as SignalShape[];
