/** YAML 1.2: one document, or several as a list of records. */
export async function readYaml(bytes: Uint8Array): Promise<unknown> {
  const { parseAllDocuments } = await import('yaml');
  const documents = parseAllDocuments(new TextDecoder().decode(bytes), { maxAliasCount: 100 } as object);
  const list = 'empty' in documents ? [] : documents;
  for (const { errors } of list) if (errors[0] !== undefined) throw errors[0];
  const values = list.map((document) => document.toJS({ maxAliasCount: 100 }) as unknown);
  return values.length === 1 ? values[0] : values;
}
