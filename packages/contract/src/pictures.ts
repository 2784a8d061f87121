/** Widths in pixels that the server makes of a picture in its folder: `/files/rose.jpg?width=320`. */
export const PICTURE_WIDTHS = [160, 240, 320, 640] as const;
