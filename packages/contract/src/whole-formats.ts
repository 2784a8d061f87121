/** Formats that are read as a whole and become JSON, with their media types. */
export const WHOLE_FORMATS = {
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  yaml: 'application/yaml',
  xml: 'application/xml',
  parquet: 'application/vnd.apache.parquet',
  markdown: 'text/markdown',
  html: 'text/html',
  zip: 'application/zip',
} as const;
