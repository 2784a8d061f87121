// Lints an OpenAPI document from standard input with an outside linter, and prints what it finds as JSON. A process of
// its own, because the linter is an ES module.
import { createConfig, lintFromString } from '@redocly/openapi-core';
import { text } from 'node:stream/consumers';

const config = await createConfig({ extends: ['recommended-strict'] });
const found = await lintFromString({ source: await text(process.stdin), config });
console.log(
  JSON.stringify(found.map(({ ruleId, message, location }) => `${ruleId}: ${message} at ${location[0]?.pointer}`)),
);
