import {
  cloudEventSchema,
  feedPatchSchema,
  feedPreviewSchema,
  feedReplaySchema,
  feedTestSchema,
  newFeedSchema,
  type CloudEvent,
  type FeedPatch,
  type FeedPreview,
  type FeedReplay,
  type FeedTest,
  type NewFeed,
  collectionPatchSchema,
  eventsSchema,
  fieldRulePreviewSchema,
  fieldRulesSchema,
  interfaceSchema,
  judgementChangesSchema,
  judgementRunSchema,
  judgementsSchema,
  pastSearchSchema,
  askSuggestionsSchema,
  multiSearchSchema,
  newCollectionSchema,
  newInterfaceSchema,
  previewRequestSchema,
  handoverSchema,
  newKeySchema,
  pointerToken,
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
  type PastSearch,
  type AskSuggestions,
  type MultiSearch,
  type NewCollection,
  type Handover,
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
import { Ajv2020, type AnySchema, type ErrorObject, type ValidateFunction } from 'ajv/dist/2020.js';
import addFormats from 'ajv-formats';
import { Failure } from './failure';

const OPTIONS = { strict: true, strictRequired: false, strictTypes: false, allowUnionTypes: true, discriminator: true };

/** Stops at the first thing that is wrong: what somebody sends may be wrong in a million places. */
const first = withFormats(new Ajv2020({ ...OPTIONS, allErrors: false }));
/** Names everything that is wrong, for what is small enough. */
const thorough = withFormats(new Ajv2020({ ...OPTIONS, allErrors: true }));
/** Values (of lists and objects, all levels together) up to which everything is named. */
const SMALL = 2_000;

function withFormats(ajv: Ajv2020): Ajv2020 {
  addFormats.default(ajv, ['date', 'date-time']);
  return ajv;
}

interface Validated {
  SearchRequest: SearchRequest;
  AskSuggestions: AskSuggestions;
  MultiSearch: MultiSearch;
  Tuning: TuningDocument;
  NewCollection: NewCollection;
  NewKey: NewKey;
  Interface: InterfaceDocument;
  NewInterface: NewInterface;
  PreviewRequest: { expiresInS?: number };
  Handover: Handover;
  CollectionPatch: CollectionPatch;
  FieldRules: FieldRules;
  FieldRulePreview: FieldRule;
  TokenClaims: TokenClaims;
  Settings: Settings;
  Events: VisitorEvents;
  Judgements: Judgements;
  PastSearch: PastSearch;
  JudgementChanges: JudgementChanges;
  JudgementRun: JudgementRun;
  Trial: Trial;
  WhereaboutsRequest: WhereaboutsRequest;
  CloudEvent: CloudEvent;
  NewFeed: NewFeed;
  FeedPatch: FeedPatch;
  FeedPreview: FeedPreview;
  FeedReplay: FeedReplay;
  FeedTest: FeedTest;
}

const schemas: { [K in keyof Validated]: AnySchema } = {
  SearchRequest: searchRequestSchema,
  AskSuggestions: askSuggestionsSchema,
  MultiSearch: multiSearchSchema,
  Tuning: tuningSchema,
  NewCollection: newCollectionSchema,
  NewKey: newKeySchema,
  Interface: interfaceSchema,
  NewInterface: newInterfaceSchema,
  PreviewRequest: previewRequestSchema,
  Handover: handoverSchema,
  CollectionPatch: collectionPatchSchema,
  FieldRules: fieldRulesSchema,
  FieldRulePreview: fieldRulePreviewSchema,
  TokenClaims: tokenClaimsSchema,
  Settings: settingsSchema,
  Events: eventsSchema,
  Judgements: judgementsSchema,
  PastSearch: pastSearchSchema,
  JudgementChanges: judgementChangesSchema,
  JudgementRun: judgementRunSchema,
  Trial: trialSchema,
  WhereaboutsRequest: whereaboutsRequestSchema,
  CloudEvent: cloudEventSchema,
  NewFeed: newFeedSchema,
  FeedPatch: feedPatchSchema,
  FeedPreview: feedPreviewSchema,
  FeedReplay: feedReplaySchema,
  FeedTest: feedTestSchema,
};

const compiled = new Map<string, ValidateFunction>();

function validator(name: keyof Validated, ajv: Ajv2020): ValidateFunction {
  const at = `${ajv === first ? 'first' : 'all'} ${name}`;
  let check = compiled.get(at);
  if (!check) compiled.set(at, (check = ajv.compile(schemas[name])));
  return check;
}

// At the start, so that no request waits for it.
for (const name of Object.keys(schemas)) validator(name as keyof Validated, first);

/**
 * Checks a value against a schema of the contract. Throws a Failure that names the bad parts by their JSON Pointers: up
 * to twenty of something small, the first of anything else.
 */
export function validate<K extends keyof Validated>(schema: K, value: unknown): Validated[K] {
  const check = validator(schema, first);
  if (check(value)) return value as Validated[K];
  let errors = check.errors ?? [];
  if (isSmall(value)) {
    const all = validator(schema, thorough);
    all(value);
    errors = all.errors ?? errors;
  }
  const parts = errors.slice(0, 20).map(describe);
  throw new Failure(
    'invalid',
    parts.map(({ pointer, detail }) => `${pointer || 'the body'} ${detail}`).join('; '),
    parts,
  );
}

function isSmall(value: unknown): boolean {
  let left = SMALL;
  const count = (one: unknown): void => {
    if (--left < 0 || one === null || typeof one !== 'object') return;
    for (const inner of Object.values(one)) {
      if (left < 0) return;
      count(inner);
    }
  };
  count(value);
  return left >= 0;
}

function describe({ instancePath, keyword, params, message = 'is not valid' }: ErrorObject): ProblemPart {
  const below = (name: unknown): string => `${instancePath}/${pointerToken(String(name))}`;
  if (keyword === 'additionalProperties')
    return { pointer: below(params.additionalProperty), detail: 'is not known here' };
  if (keyword === 'required') return { pointer: below(params.missingProperty), detail: 'is missing' };
  if (keyword === 'enum')
    return { pointer: instancePath, detail: `must be one of ${(params.allowedValues as unknown[]).join(', ')}` };
  if (keyword === 'discriminator') return { pointer: below(params.tag), detail: `must be one of its kinds, not ${JSON.stringify(params.tagValue) ?? 'absent'}` }; // prettier-ignore
  if (keyword === 'pattern') return { pointer: instancePath, detail: `must fit ${String(params.pattern)}` };
  return { pointer: instancePath, detail: message };
}
