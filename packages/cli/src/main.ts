import { HANDOVER_TARGETS } from '@yucca/contract';
import { Command, CommanderError, InvalidArgumentError, Option } from 'commander';
import { backup, check, restore } from './commands/backup.ts';
import { exportRecords, type ExportOptions } from './commands/export.ts';
import { compareFeed, feedStatus, listFeeds, repairFeed, runFeed } from './commands/feed.ts';
import { FORMATS, load, type LoadOptions } from './commands/load.ts';
import { pullPage, type PullPageOptions } from './commands/page.ts';
import { search, type SearchOptions } from './commands/search.ts';
import { pull, push } from './commands/settings.ts';
import { types, type TypesOptions } from './commands/types.ts';
import { isIdentifier } from './record-type.ts';
import { Refused, type Access } from './server.ts';

/** 0 = done, 1 = refused or failed, 2 = used wrongly, 3 = done, but some lines failed. */
type ExitCode = number;

function identifier(text: string): string {
  if (!isIdentifier(text)) throw new InvalidArgumentError('a name of a type is wanted.');
  return text;
}

function wholeNumber(text: string): string {
  if (!/^\d{1,4}$/.test(text)) throw new InvalidArgumentError('a whole number is wanted.');
  return text;
}

/** The command line. Returns the exit code. */
export async function main(argv: readonly string[], env: NodeJS.ProcessEnv = process.env): Promise<ExitCode> {
  let code: ExitCode = 0;
  const program = new Command('yucca')
    .description('Loads, searches and exports collections of a running Yucca, and keeps their settings in files.')
    .option('--url <address>', 'where Yucca answers', env.YUCCA_URL ?? 'http://127.0.0.1:4310')
    .option('--key <secret>', 'the key to send (better: the variable YUCCA_KEY)')
    .exitOverride()
    .configureHelp({ showGlobalOptions: true });
  const access = (): Access => {
    const { url, key } = program.opts<{ url: string; key?: string }>();
    return { url, key: key ?? env.YUCCA_KEY };
  };

  program
    .command('load')
    .description(
      'load a file (JSON, JSON Lines, CSV, Excel, YAML, XML, Parquet, Markdown, HTML), gzip or not; - reads standard input',
    )
    .argument('<collection>')
    .argument('<file>')
    .addOption(
      new Option('--mode <mode>', 'what a known key does').choices(['replace', 'merge', 'insert']).default('replace'),
    )
    .addOption(new Option('--format <format>', 'when the name does not tell').choices(FORMATS))
    .option('--create [key]', 'make the collection if it is not there, with this key field (default: id)')
    .option('--assign-keys', 'give records without a key one made from their content')
    .option('--nest', 'open dotted column names into objects')
    .option('--at <pointer>', 'JSON: where the records are, such as /features (default: where most of them are)')
    .option('--quiet', 'no progress')
    .action(async (collection: string, file: string, options: LoadOptions) => {
      code = await load(access(), collection, file, options);
    });

  program
    .command('search')
    .description('search a collection')
    .argument('<collection>')
    .argument('[query]', 'as a visitor would type it', '')
    .option('--filter <condition>', 'CQL2-Text')
    .option('--facets <names>', 'facets to count, with commas; * for all')
    .option('--sort <name>')
    .option('--fields <paths>', 'fields to return, with commas')
    .option('--size <count>', 'results', wholeNumber, '10')
    .option('--draft', 'ask the draft')
    .option('--json', 'print the whole answer')
    .action(async (collection: string, query: string, options: SearchOptions) => {
      code = await search(access(), collection, query, options);
    });

  program
    .command('export')
    .description('write all records of a collection')
    .argument('<collection>')
    .option('-o, --output <file>', 'default: standard output')
    .addOption(new Option('--format <format>').choices(['ndjson', 'csv']))
    .option('--fields <paths>', 'with commas')
    .option('--filter <condition>', 'CQL2-Text')
    .action(async (collection: string, options: ExportOptions) => {
      code = await exportRecords(access(), collection, options);
    });

  program
    .command('types')
    .description('write the TypeScript type of the records of a collection')
    .argument('<collection>')
    .option('-o, --output <file>', 'default: standard output')
    .option('--name <name>', 'of the type (default: made from the name of the collection)', identifier)
    .action(async (collection: string, options: TypesOptions) => {
      code = await types(access(), collection, options);
    });

  const settings = program.command('settings').description('tuning and field rules as one file');
  settings
    .command('pull')
    .description('write the live settings')
    .argument('<collection>')
    .option('-o, --output <file>', 'default: standard output')
    .action(async (collection: string, options: { output?: string }) => {
      code = await pull(access(), collection, options);
    });
  settings
    .command('push')
    .description('take settings over as the draft')
    .argument('<collection>')
    .argument('<file>')
    .option('--publish', 'make them live')
    .option('--note <text>', 'for the history')
    .action(async (collection: string, file: string, options: { publish?: boolean; note?: string }) => {
      code = await push(access(), collection, file, options);
    });

  const page = program.command('page').description('search pages as files');
  page
    .command('pull')
    .description('take the live page away, with a search key made for it')
    .argument('<slug>', 'of the page, or the name of a collection')
    .addOption(new Option('--target <target>', 'what as').choices(HANDOVER_TARGETS).default('html'))
    .requiredOption('--out <folder>', 'where to')
    .option(
      '--origin <address>',
      'a site that its key is for; may be given again',
      (one: string, all: string[]) => [...all, one],
      [],
    ) // prettier-ignore
    .option('--key-id <id>', 'a key that is there already: the files hold a placeholder for its secret')
    .option('--over', 'replace files that are there')
    .action(async (slug: string, options: PullPageOptions) => {
      code = await pullPage(access(), slug, options);
    });

  const feed = program.command('feed').description('sources that keep collections in step');
  feed
    .command('list')
    .description('print feeds, a line each')
    .option('--collection <name>')
    .action(async (options: { collection?: string }) => {
      code = await listFeeds(access(), options.collection);
    });
  feed
    .command('status')
    .description('print how a feed does')
    .argument('<feed>', 'its name or id')
    .option('--json', 'print all of it')
    .action(async (name: string, options: { json?: boolean }) => {
      code = await feedStatus(access(), name, options);
    });
  feed
    .command('run')
    .description('ask its source now, and wait for the end')
    .argument('<feed>', 'its name or id')
    .option('--whole', 'read everything, also where only changes could be asked for')
    .option('--confirm', 'go on with what the last run asks')
    .action(async (name: string, options: { whole?: boolean; confirm?: boolean }) => {
      code = await runFeed(access(), name, options);
    });
  feed
    .command('compare')
    .description('compare its collection with the source; changes nothing')
    .argument('<feed>', 'its name or id')
    .argument('[file]', 'all records of a source that sends, one JSON object a line; - reads standard input')
    .action(async (name: string, file: string | undefined) => {
      code = await compareFeed(access(), name, file);
    });
  feed
    .command('repair')
    .description('make its collection what the source says')
    .argument('<feed>', 'its name or id')
    .argument('[file]', 'as for compare')
    .option('--what <kinds>', 'missing, different, extra, with commas', 'missing,different')
    .option('--confirm', 'delete even more than a tenth of the records')
    .action(async (name: string, file: string | undefined, options: { what: string; confirm?: boolean }) => {
      code = await repairFeed(access(), name, file, options);
    });

  program
    .command('backup')
    .description('have a running Yucca make a copy of everything, in its folder of backups')
    .action(async () => {
      code = await backup(access());
    });

  program
    .command('restore')
    .description('make a data folder from a backup, while no Yucca runs over it')
    .argument('<backup>', 'the folder of the backup')
    .argument('<folder>', 'the data folder; it must be empty or not there')
    .action(async (from: string, to: string) => {
      code = await restore(from, to);
    });

  program
    .command('check')
    .description('check a backup, or a data folder that no Yucca runs over, from end to end')
    .argument('<folder>')
    .action(async (folder: string) => {
      code = await check(folder);
    });

  for (const command of [...program.commands, ...settings.commands, ...page.commands, ...feed.commands])
    command.exitOverride();
  try {
    await program.parseAsync([...argv]);
    return code;
  } catch (error) {
    if (error instanceof CommanderError) return error.exitCode === 0 ? 0 : 2;
    if (!(error instanceof Refused)) throw error;
    process.stderr.write(`${error.message}\n`);
    return 1;
  }
}
