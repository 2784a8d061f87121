/**
 * XML, RSS and Atom: elements are fields, repeated ones lists, attributes fields beside them. Values stay text; what
 * they are is proposed as for a table.
 */
export async function readXml(bytes: Uint8Array): Promise<unknown> {
  const { XMLParser, XMLValidator } = await import('fast-xml-parser');
  const text = new TextDecoder().decode(bytes);
  const valid = XMLValidator.validate(text, { allowBooleanAttributes: true });
  if (valid !== true) throw new Error(`line ${valid.err.line}: ${valid.err.msg}`);
  const parser = new XMLParser({
    ignoreAttributes: false,
    attributeNamePrefix: '',
    textNodeName: 'text',
    parseTagValue: false,
    parseAttributeValue: false,
    ignoreDeclaration: true,
    ignorePiTags: true,
    removeNSPrefix: true,
    htmlEntities: true,
  });
  return parser.parse(text) as unknown;
}
