import sanitize from 'sanitize-html';

/** Elements that draw, and nothing that runs, asks for an address or takes style sheets (SVG 2). */
const DRAWING = [
  ...['svg', 'g', 'defs', 'title', 'desc', 'symbol', 'use', 'path', 'rect', 'circle', 'ellipse', 'line', 'polyline'],
  ...['polygon', 'text', 'tspan', 'linearGradient', 'radialGradient', 'stop', 'clipPath', 'mask', 'pattern', 'marker'],
];

const LOOKS = [
  ...['id', 'class', 'x', 'y', 'x1', 'x2', 'y1', 'y2', 'cx', 'cy', 'r', 'rx', 'ry', 'fx', 'fy', 'dx', 'dy', 'd'],
  ...['width', 'height', 'viewBox', 'preserveAspectRatio', 'points', 'transform', 'offset', 'href', 'xmlns'],
  ...['fill', 'fill-rule', 'fill-opacity', 'stroke', 'stroke-width', 'stroke-linecap', 'stroke-linejoin'],
  ...['stroke-dasharray', 'stroke-dashoffset', 'stroke-miterlimit', 'stroke-opacity', 'opacity', 'color'],
  ...['stop-color', 'stop-opacity', 'clip-path', 'clip-rule', 'mask', 'gradientUnits', 'gradientTransform'],
  ...['spreadMethod', 'patternUnits', 'patternTransform', 'clipPathUnits', 'maskUnits', 'markerWidth', 'markerHeight'],
  ...['refX', 'refY', 'orient', 'font-family', 'font-size', 'font-weight', 'font-style', 'text-anchor'],
  ...['letter-spacing', 'dominant-baseline', 'role', 'aria-label', 'vector-effect', 'display', 'visibility'],
];

/** Whether a value leads out of the drawing: an address that is no part of it. */
const leadsOut = (value: string): boolean => /url\(\s*["']?(?!\s*#)/i.test(value);

/**
 * An SVG without anything but its drawing: no scripts, events, styles, foreign content or addresses of other files.
 * Null for what is no SVG.
 */
export function cleanSvg(source: string): string | null {
  const clean = sanitize(source.replace(/^\uFEFF/, ''), {
    allowedTags: DRAWING,
    allowedAttributes: { '*': LOOKS },
    // Only parts of the drawing itself.
    transformTags: {
      '*': (tagName, attribs) => ({
        tagName,
        attribs: Object.fromEntries(
          Object.entries(attribs)
            .map(([name, value]) => [name === 'xlink:href' ? 'href' : name, value] as const)
            .filter(([name, value]) => (name === 'href' ? value.startsWith('#') : !leadsOut(value))),
        ),
      }),
    },
    disallowedTagsMode: 'completelyDiscard',
    parser: { xmlMode: true, lowerCaseTags: false, lowerCaseAttributeNames: false },
    parseStyleAttributes: false,
  }).trim();
  if (!/^<svg[\s>]/.test(clean)) return null;
  return clean.includes('xmlns="http://www.w3.org/2000/svg"')
    ? clean
    : clean.replace('<svg', '<svg xmlns="http://www.w3.org/2000/svg"');
}
