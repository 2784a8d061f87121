/** A plain value as it stands in a program; what has no value is left out. */
export const literal = (value: unknown): string => JSON.stringify(value);

/** A value that stands in a program under a name. */
export const constant = (name: string, value: unknown, about: string, type = ''): string =>
  `/** ${about} */\nexport const ${name}${type} = ${literal(value)};\n`;
