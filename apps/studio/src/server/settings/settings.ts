import type { Settings, SettingsAnswer } from '@yucca/contract';
import type { Collections } from '../collections/collections';
import { Failure } from '../failure';
import type { FieldRules } from '../field-rules/field-rules';
import { checkTuning, type Tunings } from '../tuning/tuning';

export interface SettingsParts {
  collections: Collections;
  tunings: Tunings;
  fieldRules: FieldRules;
}

/** A collection's settings as one document: what a team keeps in its repository. */
export class SettingsService {
  readonly #collections: Collections;
  readonly #tunings: Tunings;
  readonly #fieldRules: FieldRules;

  constructor({ collections, tunings, fieldRules }: SettingsParts) {
    this.#collections = collections;
    this.#tunings = tunings;
    this.#fieldRules = fieldRules;
  }

  /** The settings that are live. */
  get(name: string): Settings {
    const { title, keyField } = this.#collections.row(name);
    return {
      settings: 1,
      title,
      key: keyField,
      fieldRules: this.#fieldRules.get(name),
      tuning: this.#tunings.get(name, 'live'),
    };
  }

  /** Takes settings over: title and field rules at once, the tuning as a draft that is published when asked. */
  async put(name: string, settings: Settings, publish: boolean, note: string | null): Promise<SettingsAnswer> {
    const before = this.get(name);
    if (settings.key !== undefined && settings.key !== before.key)
      throw new Failure(
        'conflict',
        `“${name}” tells its records apart by “${before.key}”, these settings by “${settings.key}”.`,
        [{ pointer: '/key', detail: `must be “${before.key}”` }],
      );
    checkTuning(settings.tuning);
    const changed: SettingsAnswer['changed'] = [];
    if (settings.title !== undefined && settings.title !== before.title) {
      this.#collections.patch(name, { title: settings.title });
      changed.push('title');
    }
    if (settings.fieldRules !== undefined && differs(settings.fieldRules, before.fieldRules)) {
      this.#fieldRules.set(name, settings.fieldRules);
      changed.push('fieldRules');
    }
    if (differs(settings.tuning, before.tuning)) {
      await this.#tunings.replaceDraft(name, settings.tuning);
      if (publish) await this.#tunings.publish(name, note ?? 'Pushed from a settings file');
      changed.push('tuning');
    }
    const { liveVersion, draftChanged } = this.#collections.get(name);
    return { changed, liveVersion, draftChanged };
  }
}

const differs = (a: unknown, b: unknown): boolean => JSON.stringify(sorted(a)) !== JSON.stringify(sorted(b));

/** The same document with its properties in alphabetical order: their order says nothing. */
function sorted(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(sorted);
  if (value === null || typeof value !== 'object') return value;
  return Object.fromEntries(
    Object.entries(value)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([name, item]) => [name, sorted(item)]),
  );
}
