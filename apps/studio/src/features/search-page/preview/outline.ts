/** A frame around a part of the page, with its name. It is drawn over the page and changes nothing on it. */
export class Outline {
  readonly #box = document.createElement('div');
  readonly #label = document.createElement('span');
  #element: Element | null = null;
  #frame = 0;

  constructor() {
    Object.assign(this.#box.style, {
      position: 'fixed',
      zIndex: '2147483646',
      border: '2px solid #a8481f',
      borderRadius: '4px',
      pointerEvents: 'none',
      display: 'none',
    });
    Object.assign(this.#label.style, {
      position: 'absolute',
      left: '-2px',
      bottom: '100%',
      padding: '1px 6px',
      borderRadius: '3px 3px 0 0',
      background: '#a8481f',
      color: '#ffffff',
      font: '500 13px/18px system-ui, sans-serif',
      whiteSpace: 'nowrap',
    });
    this.#box.setAttribute('aria-hidden', 'true');
    this.#box.append(this.#label);
    document.body.append(this.#box);
    this.#follow();
  }

  show(element: Element | null, name = ''): void {
    this.#element = element;
    this.#label.textContent = name;
    this.#place();
  }

  remove(): void {
    cancelAnimationFrame(this.#frame);
    this.#box.remove();
  }

  /** What it stands around may move: the page scrolls, results come. */
  #follow(): void {
    this.#frame = requestAnimationFrame(() => {
      this.#place();
      this.#follow();
    });
  }

  #place(): void {
    const rect = this.#element?.isConnected ? this.#element.getBoundingClientRect() : null;
    if (rect === null || rect.height === 0) {
      this.#box.style.display = 'none';
      return;
    }
    const { style } = this.#box;
    style.display = 'block';
    style.left = `${rect.left - 3}px`;
    style.top = `${rect.top - 3}px`;
    style.width = `${rect.width + 2}px`;
    style.height = `${rect.height + 2}px`;
    // Where there is no room above, its name stands inside.
    this.#label.style.bottom = rect.top < 22 ? 'auto' : '100%';
  }
}
