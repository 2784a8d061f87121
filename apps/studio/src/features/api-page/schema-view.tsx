import { SCHEMAS, type Schema } from '@yucca/contract/openapi';

interface Part extends Schema {
  type?: string | string[];
  properties?: Record<string, Part>;
  required?: readonly string[];
  items?: Part;
  anyOf?: Part[];
  oneOf?: Part[];
  enum?: unknown[];
  const?: unknown;
  description?: string;
  default?: unknown;
  $ref?: string;
  additionalProperties?: boolean | Part;
}

/** A schema's type in a few words: "list of text", "number or null". */
export function typeWords(part: Part): string {
  if (part.$ref) return part.$ref;
  if (part.const !== undefined) return JSON.stringify(part.const);
  if (part.enum) return part.enum.map((value) => JSON.stringify(value)).join(' | ');
  const choices = part.anyOf ?? part.oneOf;
  if (choices && !part.properties) return [...new Set(choices.map(typeWords))].join(' or ');
  const types = part.type === undefined ? [] : Array.isArray(part.type) ? part.type : [part.type];
  if (types.includes('array')) return `list of ${part.items ? typeWords(part.items) : 'anything'}`;
  return types.join(' or ') || 'anything';
}

/** What lies below a part: its properties, or those of the items of a list. */
function below(part: Part): Part | null {
  if (part.$ref) return (SCHEMAS[part.$ref] as Part | undefined) ?? null;
  if (part.properties && Object.keys(part.properties).length > 0) return part;
  if (part.items) return below(part.items);
  const choice = (part.anyOf ?? part.oneOf ?? []).map(below).find((one) => one !== null);
  if (choice) return choice;
  return typeof part.additionalProperties === 'object' ? below(part.additionalProperties) : null;
}

/** A schema as a list of names, types and meanings; what lies deeper opens on a click. */
export function SchemaView({ schema, level = 0 }: { schema: Part; level?: number }) {
  const open = below(schema);
  if (open === null) return <p className="text-[13px] text-soft">{schema.description ?? typeWords(schema)}</p>;
  return (
    <ul className={level === 0 ? 'text-[13px]' : 'ml-3 border-l border-line pl-3 text-[13px]'}>
      {Object.entries(open.properties ?? {}).map(([name, part]) => {
        const inner = level < 6 ? below(part) : null;
        const line = (
          <>
            <span className="figures font-medium">{name}</span>{' '}
            <span className="figures text-xs text-soft">{typeWords(part)}</span>
            {open.required?.includes(name) && <span className="text-xs text-clay"> needed</span>}
            {part.default !== undefined && (
              <span className="figures text-xs text-soft"> = {JSON.stringify(part.default)}</span>
            )}
            {part.description && <span className="block pl-3.5 text-soft">{part.description}</span>}
          </>
        );
        return (
          <li key={name} className="py-0.5">
            {inner ? (
              <details>
                <summary className="min-h-6">{line}</summary>
                <SchemaView schema={inner} level={level + 1} />
              </details>
            ) : (
              <div className="pl-3.5 [&>.block]:pl-0">{line}</div>
            )}
          </li>
        );
      })}
    </ul>
  );
}
