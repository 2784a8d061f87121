import { HighlightStyle } from '@codemirror/language';
import { EditorView } from '@codemirror/view';
import { tags } from '@lezer/highlight';

// Names and values apart, in the two inks and the one accent there are; no colour here means live, draft or a mark.
export const editorHighlight = HighlightStyle.define([
  { tag: [tags.propertyName, tags.attributeName, tags.heading], color: 'var(--ink)', fontWeight: '500' },
  { tag: [tags.string, tags.monospace, tags.attributeValue], color: 'var(--plum)' },
  { tag: [tags.number, tags.bool, tags.null], color: 'var(--agave)' },
  { tag: [tags.keyword, tags.tagName], color: 'var(--agave)' },
  { tag: tags.comment, color: 'var(--ink-soft)', fontStyle: 'italic' },
  { tag: [tags.punctuation, tags.url, tags.docComment], color: 'var(--ink-soft)' },
]);

/** How code looks while it is edited. */
export const editorLook = EditorView.theme({
  '&': { height: '100%', fontSize: '13px', backgroundColor: 'var(--raised)', color: 'var(--ink)' },
  '.cm-scroller': { fontFamily: 'var(--font-mono)', lineHeight: '20px' },
  '.cm-gutters': { backgroundColor: 'var(--sunk)', color: 'var(--ink-soft)', border: 'none' },
  '.cm-activeLine': { backgroundColor: 'color-mix(in srgb, var(--sunk) 50%, transparent)' },
  '.cm-activeLineGutter': { backgroundColor: 'var(--line)' },
  '.cm-cursor': { borderLeftColor: 'var(--ink)' },
  '&.cm-focused': { outline: '2px solid var(--agave)' },
  '.cm-selectionBackground, &.cm-focused .cm-selectionBackground': { backgroundColor: 'var(--agave-tint) !important' },
  '.cm-tooltip': { backgroundColor: 'var(--paper)', border: '1px solid var(--line)', color: 'var(--ink)' },
});
