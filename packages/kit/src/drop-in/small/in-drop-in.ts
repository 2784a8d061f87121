/** Stands in the drop-in for what applications and servers need: it draws by JavaScript alone, and nobody's parts. */
export const IN_PACKAGE = false;
