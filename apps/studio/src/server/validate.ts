import {
  collectionPatchSchema,
  eventsSchema,
  fieldRulePreviewSchema,
  fieldRulesSchema,
  interfaceSchema,
  judgementChangesSchema,
  judgementRunSchema,
  judgementsSchema,
  multiSearchSchema,
  newCollectionSchema,
  newInterfaceSchema,
  newKeySchema,
  searchRequestSchema,
  settingsSchema,
  tokenClaimsSchema,
  trialSchema,
  tuningSchema,
  whereaboutsRequestSchema,
  type CollectionPatch,
  type FieldRule,
  type FieldRules,
  type InterfaceDocument,
  type JudgementChanges,
  type JudgementRun,
  type Judgements,
  type MultiSearch,
  type NewCollection,
  type NewInterface,
  type NewKey,
  type ProblemPart,
  type SearchRequest,
  type Settings,
  type TokenClaims,
  type Trial,
  type TuningDocument,
  type VisitorEvents,
  type WhereaboutsRequest,
} from '@yucca/contract';
import { Ajv2020, type ErrorObject, type ValidateFunction } from 'ajv/dist/2020.js';
import addFormats from 'ajv-formats';
import { Failure } from './failure';

const ajv = new Ajv2020({
  allErrors: true,
  strict: true,
  strictRequired: false,
  strictTypes: false,
  allowUnionTypes: true,
});
addFormats.default(ajv, ['date', 'date-time']);

interface Validated {
  SearchRequest: SearchRequest;
  MultiSearch: MultiSearch;
  Tuning: TuningDocument;
  NewCollection: NewCollection;
  NewKey: NewKey;
  Interface: InterfaceDocument;
  NewInterface: NewInterface;
  CollectionPatch: CollectionPatch;
  FieldRules: FieldRules;
  FieldRulePreview: FieldRule;
  TokenClaims: TokenClaims;
  Settings: Settings;
  Events: VisitorEvents;
  Judgements: Judgements;
  JudgementChanges: JudgementChanges;
  JudgementRun: JudgementRun;
  Trial: Trial;
  WhereaboutsRequest: WhereaboutsRequest;
}

const validators: { [K in keyof Validated]: ValidateFunction } = {
  SearchRequest: ajv.compile(searchRequestSchema),
  MultiSearch: ajv.compile(multiSearchSchema),
  Tuning: ajv.compile(tuningSchema),
  NewCollection: ajv.compile(newCollectionSchema),
  NewKey: ajv.compile(newKeySchema),
  Interface: ajv.compile(interfaceSchema),
  NewInterface: ajv.compile(newInterfaceSchema),
  CollectionPatch: ajv.compile(collectionPatchSchema),
  FieldRules: ajv.compile(fieldRulesSchema),
  FieldRulePreview: ajv.compile(fieldRulePreviewSchema),
  TokenClaims: ajv.compile(tokenClaimsSchema),
  Settings: ajv.compile(settingsSchema),
  Events: ajv.compile(eventsSchema),
  Judgements: ajv.compile(judgementsSchema),
  JudgementChanges: ajv.compile(judgementChangesSchema),
  JudgementRun: ajv.compile(judgementRunSchema),
  Trial: ajv.compile(trialSchema),
  WhereaboutsRequest: ajv.compile(whereaboutsRequestSchema),
};

/** Checks a value against a schema of the contract. Throws a Failure that names every bad part by its JSON Pointer. */
export function validate<K extends keyof Validated>(schema: K, value: unknown): Validated[K] {
  const check = validators[schema];
  if (check(value)) return value as Validated[K];
  const parts = (check.errors ?? []).slice(0, 20).map(describe);
  throw new Failure(
    'invalid',
    parts.map(({ pointer, detail }) => `${pointer || 'the body'} ${detail}`).join('; '),
    parts,
  );
}

function describe({ instancePath, keyword, params, message = 'is not valid' }: ErrorObject): ProblemPart {
  const below = (name: unknown): string =>
    `${instancePath}/${String(name).replaceAll('~', '~0').replaceAll('/', '~1')}`;
  if (keyword === 'additionalProperties')
    return { pointer: below(params.additionalProperty), detail: 'is not known here' };
  if (keyword === 'required') return { pointer: below(params.missingProperty), detail: 'is missing' };
  if (keyword === 'enum')
    return { pointer: instancePath, detail: `must be one of ${(params.allowedValues as unknown[]).join(', ')}` };
  if (keyword === 'pattern') return { pointer: instancePath, detail: `must fit ${String(params.pattern)}` };
  return { pointer: instancePath, detail: message };
}
