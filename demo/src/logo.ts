/** The sign of Quillbrook Nursery: a leaf that is a quill. */
export const NURSERY_LOGO = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 64 64" role="img" aria-label="A leaf that is a quill">
  <path d="M52 6C26 8 12 24 12 44l6 2C38 44 52 30 52 6Z" fill="#3f6f4f"/>
  <path d="M8 60 40 20M18 46h12M24 38h14M31 30h14" fill="none" stroke="#f7f3e6" stroke-width="2.5" stroke-linecap="round"/>
  <path d="m8 60 10-14" stroke="#3f6f4f" stroke-width="3" stroke-linecap="round"/>
</svg>`;
