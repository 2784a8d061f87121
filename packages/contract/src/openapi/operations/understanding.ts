import { json, flag, wait, C, type Operation } from './operation.ts';

export const UNDERSTANDING: readonly Operation[] = [
  {
    id: 'inspect',
    method: 'post',
    path: '/inspect',
    right: 'write',
    group: 'Understanding',
    summary: 'What a load of a file would propose',
    more: 'The body is a file, or its first 4 MB, in any format that can be loaded. Nothing is stored.',
    query: [{ name: 'name', description: 'Of the file: its ending says what it is.', schema: { type: 'string' } }],
    body: [
      { type: 'application/octet-stream', schema: 'Text' },
      { type: 'text/csv', schema: 'Text' },
    ],
    answers: { 200: [json('Inspection')] },
  },
  {
    id: 'profile',
    method: 'get',
    path: `${C}/profile`,
    right: 'read',
    group: 'Understanding',
    summary: 'What is in the data, field by field, with warnings and proposals',
    answers: { 200: [json('Profile')] },
  },
  {
    id: 'getFieldRules',
    method: 'get',
    path: `${C}/field-rules`,
    right: 'read',
    group: 'Understanding',
    summary: 'How values are read when a record is written',
    answers: { 200: [json('FieldRulesAnswer', { rules: [{ field: 'introduced', as: 'number' }] })] },
  },
  {
    id: 'putFieldRules',
    method: 'put',
    path: `${C}/field-rules`,
    right: 'admin',
    group: 'Understanding',
    summary: 'Set how values are read',
    more: 'Holds for whatever is written from now on. A value that cannot be read so stays as it came. Undone rules give back the values they changed.',
    query: [flag('apply', 'Bring the records that are here in line, too.'), wait],
    body: [json('FieldRules', { rules: [{ field: 'introduced', as: 'number' }] })],
    answers: { 200: [json('FieldRulesAnswer')], 202: [json('FieldRulesAnswer')] },
  },
  {
    id: 'previewFieldRule',
    method: 'post',
    path: `${C}/field-rules/preview`,
    right: 'read',
    group: 'Understanding',
    summary: 'What a rule would do to the records that are here',
    body: [json('FieldRulePreview', { field: 'introduced', as: 'number' })],
    answers: {
      200: [
        json('RuleEffect', {
          changes: 1,
          unreadable: 0,
          holding: 3000,
          examples: [{ id: 'P-0007', before: '1987*', after: 1987 }],
        }),
      ],
    },
  },
];
