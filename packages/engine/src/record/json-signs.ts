/** The bytes that make the frame of JSON (RFC 8259). No byte of a longer character in UTF-8 is one of them. */
export const BACKSLASH = 0x5c;
export const CLOSE_BRACE = 0x7d;
export const CLOSE_BRACKET = 0x5d;
export const COMMA = 0x2c;
export const OPEN_BRACE = 0x7b;
export const OPEN_BRACKET = 0x5b;
export const QUOTE = 0x22;
