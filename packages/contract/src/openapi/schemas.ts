import { collectionPatchSchema, collectionSchema, newCollectionSchema, pageOf } from '../collection.ts';
import { eventsSchema } from '../events.ts';
import { facetAnswerSchema, facetValuesAnswerSchema, treeNodeSchema } from '../facets.ts';
import {
  cloudEventSchema,
  feedComparisonSchema,
  feedEventSchema,
  feedPatchSchema,
  feedPreviewAnswerSchema,
  feedPreviewSchema,
  feedRepairSchema,
  feedReplaySchema,
  feedRunSchema,
  feedSchema,
  feedTakenSchema,
  feedTestSchema,
  feedWithSecretSchema,
  newFeedSchema,
} from '../feeds.ts';
import { fieldRulePreviewSchema, fieldRulesSchema, ruleEffectSchema } from '../field-rules.ts';
import {
  interfaceSchema,
  newInterfaceSchema,
  previewRequestSchema,
  previewSchema,
  storedInterfaceSchema,
} from '../interface.ts';
import { logoSchema } from '../interface-parts.ts';
import { interfacePageSchema } from '../interface-page-schema.ts';
import { handoverFilesSchema, handoverSchema } from '../handover.ts';
import {
  insightItemSchema,
  insightProposalSchema,
  insightProposalsSchema,
  insightsSchema,
  pastSearchSchema,
  visitorJudgementsSchema,
} from '../insights.ts';
import { inspectionSchema } from '../inspection.ts';
import { judgementChangesSchema, judgementRunSchema, judgementScoresSchema, judgementsSchema } from '../judgements.ts';
import { keySchema, newKeySchema } from '../key.ts';
import { auditEntrySchema, backupSchema, readinessSchema } from '../operations.ts';
import { problemSchema } from '../problem.ts';
import { fieldProfileSchema, fieldWarningSchema, profileSchema } from '../profile.ts';
import {
  as,
  count,
  listOf,
  number,
  object,
  oneOf,
  orNull,
  ref,
  saying,
  text,
  yesOrNo,
  type Schema,
} from '../schema-of.ts';
import {
  askSuggestionsSchema,
  multiSearchSchema,
  searchAnswerSchema,
  searchRequestSchema,
  suggestAnswerSchema,
} from '../search.ts';
import { settingsAnswerSchema, settingsSchema } from '../settings.ts';
import { taskSchema } from '../task.ts';
import { trialAnswerSchema, trialSchema } from '../trial.ts';
import { tuningSchema } from '../tuning-schema.ts';
import { typoExamplesSchema } from '../typo-examples.ts';
import { visitorTrialSchema } from '../visitor-trial.ts';
import { whereaboutsRequestSchema, whereaboutsSchema } from '../whereabouts.ts';

/** Every schema of the contract by name: what goes in, and what comes out. */
export const SCHEMAS: { [name: string]: Schema } = {
  Problem: problemSchema,
  Text: text,
  SynonymGroups: object({ groups: as(tuningSchema.properties.synonyms) }),
  SynonymReading: object({ groups: as(tuningSchema.properties.synonyms), ignored: listOf(text) }),
  TypoExamples: typoExamplesSchema,
  Trial: trialSchema,
  TrialAnswer: trialAnswerSchema,
  WhereaboutsRequest: whereaboutsRequestSchema,
  Whereabouts: whereaboutsSchema,
  Health: object({ status: oneOf('ok'), version: text, collections: count, uptimeS: number }),
  NewCollection: newCollectionSchema,
  CollectionPatch: collectionPatchSchema,
  Collection: collectionSchema,
  CollectionList: pageOf(ref('Collection')),
  Record: { type: 'object', description: 'A record as it was loaded.' },
  RecordAnswer: object({ record: ref('Record') }),
  RecordList: pageOf(ref('Record')),
  RecordsToDelete: {
    oneOf: [
      {
        type: 'object',
        additionalProperties: false,
        required: ['ids'],
        properties: { ids: { ...listOf(text), maxItems: 10_000 } },
      },
      {
        type: 'object',
        additionalProperties: false,
        required: ['filter'],
        properties: { filter: saying('CQL2-Text.', text) },
      },
    ],
  },
  Deleted: object({ deleted: count }),
  Task: taskSchema,
  TaskAnswer: object({ task: ref('Task') }),
  TaskList: pageOf(ref('Task')),
  FieldWarning: fieldWarningSchema,
  FieldProfile: fieldProfileSchema,
  Profile: profileSchema,
  FieldRules: fieldRulesSchema,
  FieldRulesAnswer: object({ rules: as(fieldRulesSchema.properties.rules), task: ref('Task') }, 'task'),
  FieldRulePreview: fieldRulePreviewSchema,
  RuleEffect: ruleEffectSchema,
  Tuning: tuningSchema,
  TuningCost: object({ rebuild: yesOrNo, records: count, aboutS: number }),
  VersionList: pageOf(object({ version: count, note: orNull(text), savedAt: text, live: yesOrNo })),
  Publish: { type: 'object', properties: { note: { type: ['string', 'null'], maxLength: 1000 } } },
  Published: object({ version: count }),
  Settings: settingsSchema,
  SettingsAnswer: settingsAnswerSchema,
  SearchRequest: searchRequestSchema,
  SearchAnswer: searchAnswerSchema,
  FacetAnswer: facetAnswerSchema,
  TreeNode: treeNodeSchema,
  // The route checks each query by itself, so that a bad one does not spoil the others; here they are written out.
  MultiSearch: {
    ...multiSearchSchema,
    properties: {
      queries: {
        ...multiSearchSchema.properties.queries,
        items: {
          type: 'object',
          additionalProperties: false,
          required: ['collection'],
          properties: {
            ...multiSearchSchema.properties.queries.items.properties,
            ...searchRequestSchema.properties,
            ...askSuggestionsSchema.properties,
          },
        },
      },
    },
  },
  MultiSearchAnswer: object({
    answers: listOf(as({ anyOf: [ref('SearchAnswer'), ref('SuggestAnswer'), ref('Problem')] })),
  }),
  FacetValuesAnswer: facetValuesAnswerSchema,
  SuggestAnswer: suggestAnswerSchema,
  Events: eventsSchema,
  EventsTaken: object({ taken: count }),
  NewKey: newKeySchema,
  Key: keySchema,
  KeyList: pageOf(ref('Key')),
  MadeKey: object({ key: ref('Key'), secret: text }),
  AuditEntry: auditEntrySchema,
  AuditPage: pageOf(ref('AuditEntry')),
  Readiness: readinessSchema,
  Backup: backupSchema,
  BackupList: pageOf(ref('Backup')),
  Judgements: judgementsSchema,
  JudgementChanges: judgementChangesSchema,
  JudgementRun: judgementRunSchema,
  JudgementScores: judgementScoresSchema,
  Inspection: inspectionSchema,
  Insights: insightsSchema,
  InsightItem: insightItemSchema,
  InsightPage: pageOf(ref('InsightItem')),
  InsightProposals: insightProposalsSchema,
  InsightProposal: insightProposalSchema,
  VisitorJudgements: visitorJudgementsSchema,
  VisitorTrial: visitorTrialSchema,
  CloudEvent: cloudEventSchema,
  CloudEvents: listOf(ref('CloudEvent')),
  NewFeed: newFeedSchema,
  FeedPatch: feedPatchSchema,
  Feed: feedSchema,
  FeedList: pageOf(ref('Feed')),
  FeedWithSecret: feedWithSecretSchema,
  FeedEvent: feedEventSchema,
  FeedEventList: pageOf(ref('FeedEvent')),
  FeedTaken: feedTakenSchema,
  FeedPreview: feedPreviewSchema,
  FeedPreviewAnswer: feedPreviewAnswerSchema,
  FeedRun: feedRunSchema,
  FeedRunList: pageOf(ref('FeedRun')),
  FeedReplay: feedReplaySchema,
  FeedTest: feedTestSchema,
  FeedComparison: feedComparisonSchema,
  FeedRepair: feedRepairSchema,
  EventsApplied: object({ applied: count }),
  FeedTriggers: object({ sql: text }),
  PastSearch: pastSearchSchema,
  SearchesTaken: object({ taken: count }),
  SearchesErased: object({ erased: count }),
  Interface: interfaceSchema,
  NewInterface: newInterfaceSchema,
  InterfacePatch: { type: 'object', description: 'A JSON Merge Patch (RFC 7396) of an Interface.' },
  PreviewRequest: previewRequestSchema,
  Handover: handoverSchema,
  HandoverFiles: handoverFilesSchema,
  Archive: saying('A ZIP archive.', as<string>({ type: 'string', format: 'binary' })),
  Markdown: saying('A text in Markdown.', as<string>({ type: 'string' })),
  Picture: saying('A picture file.', as<string>({ type: 'string', format: 'binary' })),
  Logo: logoSchema,
  Preview: previewSchema,
  StoredInterface: storedInterfaceSchema,
  InterfaceList: pageOf(ref('StoredInterface')),
  InterfacePage: interfacePageSchema,
  LoadFiles: object({ allowed: yesOrNo, items: listOf(object({ path: text, bytes: count })) }),
};
