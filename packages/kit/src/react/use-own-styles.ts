import { useEffect, type RefObject } from 'react';

/**
 * Gives the tree an element stands in a style sheet more, as long as it is drawn. Constructed, not written: that is
 * allowed where a Content-Security-Policy allows no style elements.
 */
export function useOwnStyles(element: RefObject<HTMLElement | null>, css = ''): void {
  useEffect(() => {
    const tree = element.current?.getRootNode() as Document | ShadowRoot | undefined;
    if (css === '' || !tree?.adoptedStyleSheets) return;
    const sheet = new CSSStyleSheet();
    sheet.replaceSync(css);
    tree.adoptedStyleSheets = [...tree.adoptedStyleSheets, sheet];
    return () => {
      tree.adoptedStyleSheets = tree.adoptedStyleSheets.filter((one) => one !== sheet);
    };
  }, [element, css]);
}
