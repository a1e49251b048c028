import { Command, CommanderError } from 'commander';
import { FILE_KINDS } from '#core/contract/fileKinds';
import type { ApplyOptions } from './commands/apply.ts';
import type { BackupOptions } from './commands/backup.ts';
import type { CheckOptions } from './commands/check.ts';
import type { LiftOptions } from './commands/lift.ts';
import type { MarkOptions as MarkFileOptions } from './commands/mark.ts';
import type { RunOptions } from './commands/run.ts';
import type { WatchOptions } from './watchedInbox.ts';
import type { WorkerOptions } from './commands/worker.ts';
import type { VerifyOptions } from './commands/verify.ts';
import { CallError, EXIT } from './exit.ts';
import { MarkOptions } from './markOptions.ts';

const MARK_HELP =
  'the mark: SVG, PNG, WebP, TIFF or JPEG; several, each with its preset, are laid over each other';
const PRESET_HELP = 'a *.preset.json file for that mark; without it the defaults are used';

/**
 * The command line: messages go to standard error, results to standard output. Each command is loaded
 * when it is called.
 */
export async function main(words: readonly string[]): Promise<number> {
  // Whoever reads along may have seen enough, as `head` has; what was asked for is done all the same.
  process.stdout.on('error', (error: NodeJS.ErrnoException) => {
    if (error.code !== 'EPIPE') throw error;
  });
  let status: number = EXIT.done;
  const marks = new MarkOptions();
  const program = new Command('light-crest')
    .description('Puts a mark on photos, by the same engine as the application.')
    .exitOverride()
    .configureOutput({ writeErr: (text) => process.stderr.write(text) })
    .showHelpAfterError('(light-crest --help says what there is)');

  /** What every command has that lays marks by presets. */
  const marking = (command: Command): Command =>
    command
      .requiredOption('--mark <file>', MARK_HELP, marks.mark)
      .option('--preset <file>', PRESET_HELP, marks.preset);
  /** And what those have that export. */
  const exporting = (command: Command, out: string): Command =>
    marking(command)
      .option(
        '--delivery <file>',
        'a *.delivery.json file; may be given several times',
        collect,
        [],
      )
      .requiredOption('--out <folder>', out)
      .option('--jobs <number>', 'photos in work at once')
      .option('--no-verify', 'does not open the outputs again')
      .option('--json', 'a JSON object a line for each output');

  exporting(program.command('apply'), 'where the marked photos go')
    .description('exports marked photos')
    .argument('<photo-or-folder...>', 'photos, or folders of photos')
    .action(async (photos: string[], options: Omit<ApplyOptions, 'marks'>) => {
      const { apply } = await import('./commands/apply.ts');
      status = await apply(photos, { ...options, marks: marks.all() });
    });

  marking(program.command('check'))
    .description('says how well a mark reads on photos, writing nothing')
    .argument('<photo-or-folder...>', 'photos, or folders of photos')
    .option('--json', 'a JSON object a line for each photo')
    .action(async (photos: string[], options: Omit<CheckOptions, 'marks'>) => {
      const { check } = await import('./commands/check.ts');
      status = await check(photos, { ...options, marks: marks.all() });
    });

  const watchOut = 'where the marked photos go; it must not lie in the folder';
  exporting(program.command('watch'), watchOut)
    .description('exports what appears in a folder, until it is ended by Ctrl+C')
    .argument('<folder>', 'the folder; subfolders are mirrored')
    .option('--move-failed <folder>', 'moves photos there that cannot be exported')
    .action(async (folder: string, options: Omit<WatchOptions, 'marks'>) => {
      const { watch } = await import('./commands/watch.ts');
      status = await watch(folder, { ...options, marks: marks.all() });
    });

  program
    .command('run')
    .description("exports a batch of the application's own data, as its bench has it")
    .argument('<batch>', 'its name')
    .option(
      '--delivery <name>',
      'a delivery; may be given several times; without one, those of the batch',
      collect,
      [],
    )
    .option('--json', 'a JSON object a line for each output')
    .action(async (batch: string, options: RunOptions) => {
      const { run } = await import('./commands/run.ts');
      status = await run(batch, options);
    });

  program
    .command('worker')
    .description(
      'makes photos for a server of this or another machine, until it is ended by Ctrl+C',
    )
    .option('--jobs <n>', 'photos at once; without it, one for each core up to four')
    .option('--name <name>', 'what it is called in Settings; without it, its machine')
    .option('--redis <url>', 'the Redis of the server; else LIGHT_CREST_REDIS')
    .option(
      '--root <name=folder>',
      'where a folder that all machines share lies here; may be given several times; else LIGHT_CREST_ROOTS',
      collect,
      [],
    )
    .option(
      '--store <url>',
      'the store by which photos come that lie in no shared folder, as s3://bucket/prefix; else LIGHT_CREST_STORE',
    )
    .option('--token-file <file>', "a file with the server's token; else LIGHT_CREST_TOKEN")
    .option('--show-token', "prints the token of this machine's own data, and ends")
    .action(async (options: WorkerOptions) => {
      const { worker } = await import('./commands/worker.ts');
      status = await worker(options);
    });

  program
    .command('verify')
    .description('opens an output again and says how it differs from its photo')
    .argument('<source>', 'the photo')
    .argument('<output>', 'what was made of it')
    .option('--marks <number>', 'how many marks were laid at most, 0 to 8; without it, one')
    .option('--json', 'a JSON object about what was found')
    .action(async (source: string, output: string, options: VerifyOptions) => {
      const { verify } = await import('./commands/verify.ts');
      status = await verify(source, output, options);
    });

  program
    .command('lift')
    .description('lifts ink from a scan or a photo of paper, as transparent artwork')
    .argument('<scan>', 'JPEG, PNG, WebP, TIFF, HEIC or PDF')
    .requiredOption('--out <file>', 'the PNG, cut to the ink')
    .option('--svg <file>', 'the same as outlines')
    .option('--turn <degrees>', 'quarter turns clockwise: 0, 90, 180 or 270')
    .option('--crop <x,y,w,h>', 'part of the turned sheet, px')
    .option('--page <number>', 'of a PDF, from 1')
    .option('--json', 'a JSON object about the lift')
    .option('--force', 'replaces files of these names')
    .action(async (scan: string, options: LiftOptions) => {
      const { lift } = await import('./commands/lift.ts');
      status = await lift(scan, options);
    });

  program
    .command('mark')
    .description('writes a mark as transparent PNG or as SVG')
    .argument('<file>', 'the mark: SVG, PNG, WebP, TIFF, JPEG, HEIC or PDF')
    .requiredOption('--out <file>', 'a .png or .svg file')
    .option('--tone <tone>', 'light, dark, original or #rrggbb')
    .option('--width <px>', 'of a PNG')
    .option('--frame <size>', 'a whole transparent frame with the mark in it, px: 1920x1080')
    .option(
      '--preset <file>',
      'where the mark lies in that frame; without it the defaults are used',
    )
    .option('--force', 'replaces a file of that name')
    .action(async (file: string, options: MarkFileOptions) => {
      const { mark } = await import('./commands/mark.ts');
      status = await mark(file, options);
    });

  program
    .command('backup')
    .description("writes the whole of the application's own data into one ZIP, also while it runs")
    .argument('<file>', 'a .zip file')
    .option('--force', 'replaces a file of that name')
    .action(async (file: string, options: BackupOptions) => {
      const { backup } = await import('./commands/backup.ts');
      status = await backup(file, options);
    });

  program
    .command('restore')
    .description(
      "puts a backup in the place of the application's own data, which is kept beside it",
    )
    .argument('<file>', 'a .zip file that `backup` wrote')
    .action(async (file: string) => {
      const { restore } = await import('./commands/restore.ts');
      status = await restore(file);
    });

  program
    .command('schema')
    .description('prints the JSON Schema of a file')
    .argument('<kind>', FILE_KINDS.join(' or '))
    .action(async (kind: string) => {
      const { schema } = await import('./commands/schema.ts');
      status = schema(kind);
    });

  try {
    await program.parseAsync(words, { from: 'user' });
    return status;
  } catch (error) {
    if (error instanceof CommanderError) return error.exitCode === 0 ? EXIT.done : EXIT.wrongCall;
    if (error instanceof CallError) {
      process.stderr.write(`light-crest: ${error.message}\n`);
      return EXIT.wrongCall;
    }
    throw error;
  }
}

function collect(value: string, before: string[]): string[] {
  return [...before, value];
}
