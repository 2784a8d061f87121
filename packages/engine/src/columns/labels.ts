import type { RecordJson } from '@yucca/contract';
import { leavesAt } from '@yucca/contract';

/**
 * Visits each value of `field` with the text that stands for it in `labelField`. Below a list of objects each id goes
 * with the name in its own object (`suppliers.id` with `suppliers.name`); lists beside each other go by their order.
 */
export function eachLabel(
  record: RecordJson,
  field: string,
  labelField: string,
  visit: (value: string, label: string) => void,
): void {
  const [ids, names] = [field.split('.'), labelField.split('.')];
  let shared = 0;
  while (shared < ids.length - 1 && shared < names.length - 1 && ids[shared] === names[shared]) shared++;
  eachObject(record, ids.slice(0, shared), (object) => {
    const values = scalars(object, ids.slice(shared).join('.'));
    const labels = scalars(object, names.slice(shared).join('.'));
    values.forEach((value, i) => {
      const label = labels[i];
      if (label !== undefined && label !== '') visit(value, label);
    });
  });
}

function scalars(object: RecordJson, path: string): string[] {
  const found: string[] = [];
  leavesAt(object, path, (value) => found.push(String(value)));
  return found;
}

function eachObject(value: unknown, path: readonly string[], visit: (object: RecordJson) => void): void {
  if (Array.isArray(value)) value.forEach((item) => eachObject(item, path, visit));
  else if (value !== null && typeof value === 'object') {
    const object = value as RecordJson;
    if (path.length === 0) visit(object);
    else if (Object.hasOwn(object, path[0]!)) eachObject(object[path[0]!], path.slice(1), visit);
  }
}
