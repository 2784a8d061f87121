import { defineConfig } from 'drizzle-kit';

export default defineConfig({
  dialect: 'sqlite',
  schema: [
    './src/server/db/schema.ts',
    './src/server/db/insights-schema.ts',
    './src/server/db/feeds-schema.ts',
    './src/server/db/visitor-trials-schema.ts',
  ],
  out: './drizzle',
});
