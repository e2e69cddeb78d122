import { Argument, Command, CommanderError, Option } from 'commander'
import { schemaNames } from '../core/plan/schemaLine.ts'
import { sheetFormats } from '../core/sheets/output.ts'
import { pageNames } from '../core/sheets/pages.ts'
import { assignCommand } from './assign.ts'
import { bringUpCommand, bringUpFormats, diagnoseCommand, practiceCommand, scanCommand } from './bringup.ts'
import { boardCommand, boardsCommand, partCommand, partsCommand } from './catalogue.ts'
import { checkCommand, reportFormats } from './check.ts'
import { classCommand, taskCommand } from './class.ts'
import { compareSourceCommand } from './compareSource.ts'
import { constantsCommand, languages, settingFormats, settingsCommand } from './firmware.ts'
import { fitCommand } from './fit.ts'
import { InputError, type Status } from './input.ts'
import { backupCommand, doctorCommand, exportCommand, restoreCommand } from './keeping.ts'
import { planFromCommand } from './planFrom.ts'
import { rehearsalFormats, rehearseCommand } from './rehearse.ts'
import { schemaCommand } from './schema.ts'
import { serveCommand } from './serve.ts'
import { sheetCommand } from './sheet.ts'

/** Runs one command line and returns its exit status; nothing but bugs escapes as an exception. */
export async function run(args: readonly string[]): Promise<Status> {
  let status: Status = 0
  const program = new Command('markpost')
    .description('Plan, check and print the wiring of a development board.')
    .exitOverride()
  const json = (): Option => new Option('--json', 'one JSON document on standard output')
  const end =
    <A extends unknown[]>(command: (...args: A) => Status | Promise<Status>) =>
    async (...given: A): Promise<void> => {
      status = await command(...given)
    }
  program.command('boards').description('list the boards of the catalogue').addOption(json()).action(end(boardsCommand))
  program
    .command('board')
    .argument('<id>')
    .description('show one board with all its pins')
    .addOption(json())
    .action(end(boardCommand))
  program.command('parts').description('list the parts of the catalogue').addOption(json()).action(end(partsCommand))
  program.command('part').argument('<id>').description('show one part').addOption(json()).action(end(partCommand))
  program
    .command('check')
    .argument('<file...>')
    .description('check plans: 0 no fault, 1 a fault, 2 not a plan')
    .option('--summary', 'only the table')
    .option('--fixes', 'also the fixes of each finding')
    .addOption(
      new Option('--as <format>', 'findings at the lines of the plan, for code hosts and builds').choices(
        reportFormats,
      ),
    )
    .option(
      '--explain <end>',
      'instead of findings: every voltage and current of this pin, with the arithmetic (may be given again)',
      (end: string, ends: readonly string[] = []) => [...ends, end],
    )
    .addOption(json())
    .action(end(checkCommand))
  program
    .command('assign')
    .argument('<file>')
    .description('wire everything that is open')
    .option('--out <file>', 'write the plan here instead of to standard output')
    .option('--why <end>', 'instead: every pin for this signal, with what speaks for and against it')
    .option('--seconds <number>', 'stop searching after this time', (text) => seconds(text))
    .addOption(json())
    .action(end(assignCommand))
  program
    .command('fit')
    .argument('<file>')
    .description('rank every board of the catalogue for the parts of a plan')
    .addOption(json())
    .action(end(fitCommand))
  program
    .command('sheet')
    .argument('<file>')
    .description('print the sheets')
    .addOption(new Option('--as <format>', 'format').choices(sheetFormats).makeOptionMandatory())
    .addOption(new Option('--only <page>', `one of ${pageNames.join(', ')}; as html several with commas`))
    .addOption(new Option('--paper <size>', 'paper of the HTML pages').choices(['A4', 'Letter']))
    .addOption(json())
    .action(end(sheetCommand))
  program
    .command('constants')
    .argument('<file>')
    .description("constants for a board's program")
    .addOption(new Option('--as <language>', 'language').choices(languages).makeOptionMandatory())
    .option('--board <ref>', 'board, where the plan has several')
    .option('--out <file>', 'write here instead of to standard output')
    .action(end(constantsCommand))
  program
    .command('settings')
    .argument('<file>')
    .description("what a board's operating system must be told")
    .option('--board <ref>', 'board, where the plan has several')
    .addOption(new Option('--as <format>', 'format').choices(settingFormats))
    .addOption(json())
    .action(end(settingsCommand))
  program
    .command('compare-source')
    .argument('<file>')
    .argument('<source...>')
    .description('compare a program with a plan: 0 they agree, 1 they differ')
    .option('--board <ref>', 'board, where the plan has several')
    .addOption(new Option('--language <name>', 'language, where the files do not tell').choices(languages))
    .addOption(new Option('--as <format>', 'for code hosts and builds').choices(reportFormats))
    .addOption(json())
    .action(end(compareSourceCommand))
  program
    .command('rehearse')
    .argument('<file>')
    .argument('[source...]')
    .description(
      'run a program, or those that the plan keeps, on the planned wiring: 0 as expected, 1 something is wrong',
    )
    .option('--script <file>', 'what is done meanwhile, and what is expected')
    .option('--seconds <number>', 'virtual seconds that it runs', (text) => seconds(text))
    .option('--board <ref>', 'board, where the plan has several')
    .option(
      '--with <ref=file>',
      'program of another board, which runs together with it; several files by --with again',
      (text: string, all: readonly string[] = []) => [...all, text],
    )
    .addOption(new Option('--as <format>', 'for builds and viewers of traces').choices(rehearsalFormats))
    .addOption(json())
    .action(end(rehearseCommand))
  program
    .command('plan-from')
    .argument('<source...>')
    .description('a plan of what a program says, and what it does not tell as questions')
    .option('--board <id>', 'board of the catalogue, instead of the likeliest')
    .option('--title <text>', 'title of the plan')
    .option('--likeliest', 'take the likeliest part where the program does not tell')
    .option('--out <file>', 'file to write into, instead of standard output')
    .addOption(new Option('--language <name>', 'language, where the files do not tell').choices(languages))
    .addOption(json())
    .action(end(planFromCommand))
  program
    .command('scan')
    .argument('<file>')
    .argument('[scantext]', 'file with what a bus scan printed; standard input when left out or -')
    .description('hold a bus scan against a plan: 0 they agree, 1 they differ')
    .addOption(json())
    .action(end(scanCommand))
  program
    .command('bringup')
    .argument('<file>')
    .description('the steps before, at and after the first power, or a test program')
    .addOption(
      new Option('--as <format>', 'format, or language of the test program')
        .choices(bringUpFormats)
        .makeOptionMandatory(),
    )
    .option('--board <ref>', 'board of the test program, where the plan has several')
    .action(end(bringUpCommand))
  program
    .command('diagnose')
    .argument('<file>')
    .argument('<results>', 'JSON, or lines of the test program')
    .description('causes of what was seen, and what to measure next: 0 nothing wrong, 1 causes')
    .addOption(json())
    .action(end(diagnoseCommand))
  program
    .command('practice')
    .argument('<file>')
    .description('a stand-in board on standard input and output, to practise on')
    .option('--fault <id>', 'mistake in its wiring')
    .option('--random <seed>', 'any mistake, chosen by this number', (text) => seedOf(text))
    .action(end(practiceCommand))
  program
    .command('serve')
    .description('start the web application on this machine')
    .option('--port <number>', 'port', (text) => port(text), 4680)
    .option('--data <dir>', 'folder for plans (default: .markpost in your home folder)')
    .option('--demo', 'put the sample plans into an empty data folder')
    .option('--fresh', 'begin anew in a data folder whose database is missing')
    .option('--share', 'let others on the local network in, by a pass phrase')
    .option('--cert <file>', 'certificate for TLS, in PEM')
    .option('--key <file>', 'its key')
    .action(end(serveCommand))
  program
    .command('class')
    .argument('<source...>')
    .description('plans of many, and the programs beside them, as a table: 0 all well, 1 something to look at')
    .option('--asked <plan>', 'plan that was asked for')
    .option('--script <file>', 'what the programs must do')
    .option('--csv', 'as CSV')
    .addOption(json())
    .action(end(classCommand))
  program
    .command('task')
    .argument('<file>')
    .description('a plan as a task: everything but its wires and programs')
    .option('--no-hints', 'whoever solves it gets no pins placed and no findings fixed')
    .requiredOption('--out <file>', 'file to write')
    .action(end(taskCommand))
  program
    .command('schema')
    .addArgument(new Argument('[of]', 'what it describes').choices(schemaNames).default('plan'))
    .description('a JSON Schema; plans that are written beside plan.schema.json name it in their first line')
    .option('--out <file>', 'file to write')
    .action(end(schemaCommand))
  const data = (): Option => new Option('--data <dir>', 'folder for plans (default: .markpost in your home folder)')
  program
    .command('backup')
    .description('everything of a data folder into one file, also beside a running server')
    .addOption(data())
    .requiredOption('--out <file>', 'file to write')
    .action(end(backupCommand))
  program
    .command('restore')
    .argument('<file>')
    .description('a backup into a data folder')
    .addOption(data())
    .option('--over', 'set aside what is there')
    .action(end(restoreCommand))
  program
    .command('doctor')
    .description('what is wrong with the installation and a data folder: 0 sound, 1 something is wrong')
    .addOption(data())
    .option('--mend', 'mend what can be mended')
    .addOption(json())
    .action(end(doctorCommand))
  program
    .command('export')
    .description('plans and own entries as one archive of plain text')
    .addOption(data())
    .option('--all', 'everything')
    .option('--history', 'with every revision that is kept, as files in order')
    .requiredOption('--out <file>', 'archive to write')
    .action(end(exportCommand))
  try {
    await program.parseAsync(args, { from: 'user' })
  } catch (error) {
    if (error instanceof CommanderError) return error.exitCode === 0 ? 0 : 2
    sayError(error)
    return 2
  }
  return status
}

/** What went wrong in one line each; where it was a fault of the program's, MARKPOST_TRACE=1 shows where. */
export function sayError(error: unknown): void {
  if (error instanceof InputError) for (const line of error.lines) process.stderr.write(`${line}\n`)
  else {
    const said = error instanceof Error ? error.message : String(error)
    process.stderr.write(`markpost: this should not have happened: ${said.split('\n')[0]}\n`)
    if (process.env.MARKPOST_TRACE) process.stderr.write(`${error instanceof Error ? error.stack : ''}\n`)
  }
}

function seconds(text: string): number {
  const value = Number(text)
  if (!(value > 0) || !Number.isFinite(value))
    throw new InputError([`--seconds: "${text}" is not a time; expected a number above 0`])
  return value
}

function port(text: string): number {
  const value = Number(text)
  if (!Number.isInteger(value) || value < 0 || value > 65535)
    throw new InputError([`--port: "${text}" is not a port; expected a number from 0 to 65535`])
  return value
}

function seedOf(text: string): number {
  const value = Number(text)
  if (!Number.isInteger(value) || Math.abs(value) > 2 ** 31)
    throw new InputError([`--random: "${text}" is no seed; expected a whole number`])
  return value
}
