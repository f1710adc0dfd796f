import { hostname, userInfo } from 'node:os'
import { storeCommandProblem } from '@mappa/core/problems/catalogue/store-commands'
import { hasErrors } from '@mappa/core/problems/problem'
import { SettingsError } from '@mappa/core/problems/settings-error'
import type { Store, StoreState } from '@mappa/core/store/store'
import { unreadProblem } from '@mappa/node/sources/store'
import type { Command } from 'commander'
import { compareStore, type StoreComparison } from '../../analysis/store/compare.ts'
import { applyFetch, planFetch } from '../../analysis/store/fetch.ts'
import { planSend } from '../../analysis/store/send.ts'
import { type CommonOptions, withCommonOptions } from '../../command-line/common-options.ts'
import { EXIT_OK, EXIT_PROBLEMS } from '../../command-line/exit-codes.ts'
import { withSubcommands } from '../../command-line/subcommands.ts'
import { Project } from '../../project/project.ts'
import { getState, openProjectStore } from '../../project/store.ts'
import { confirm } from './ask.ts'
import { printComparison, printFetch, printHistory, printSend } from './render.ts'

interface StoreOptions extends CommonOptions {
  readonly storeFile?: string
  readonly yes?: boolean
  readonly remove?: string[]
}

/** What a command about a store works with. */
interface Opened {
  readonly project: Project
  readonly store: Store
  readonly state: StoreState
  readonly comparison: StoreComparison
}

/** `mappa store`: a store that many machines share. */
export function configure(command: Command, exitWith: (code: number) => void): void {
  withSubcommands(command)
  action(command, 'compare', 'compare what is there with the definition and with the values here').action(
    async (_: StoreOptions, own: Command) => {
      const options = own.optsWithGlobals<StoreOptions>()
      await withStore(options, true, ({ comparison }) => {
        printComparison(comparison, options)
        exitWith(hasErrors(comparison.problems) ? EXIT_PROBLEMS : EXIT_OK)
      })
    },
  )
  action(command, 'send', 'send the values of the files that are missing there or different')
    .argument('[names...]', 'only these settings, by their variable names')
    .option('--remove <names...>', 'remove these names there')
    .option('--yes', 'write without asking')
    .action(async (names: string[], _: StoreOptions, own: Command) => {
      await send(names, own.optsWithGlobals<StoreOptions>(), exitWith)
    })
  action(command, 'fetch', 'write values from there into the files of the stage')
    .argument('[names...]', 'only these settings, by their variable names')
    .option('--yes', 'write without asking')
    .action(async (names: string[], _: StoreOptions, own: Command) => {
      await fetchValues(names, own.optsWithGlobals<StoreOptions>(), exitWith)
    })
  action(command, 'history', 'list who changed which name when, as far as the store knows').action(
    async (_: StoreOptions, own: Command) => {
      const options = own.optsWithGlobals<StoreOptions>()
      const project = await Project.open(options)
      const { stage } = project.stage(options.stage)
      const store = await openProjectStore(project, options)
      try {
        if (store.history === undefined) throw refusal(store, stage, 'store-no-history')
        const history = await told(store, stage, store.history(stage))
        printHistory(store, stage, history, options)
        exitWith(EXIT_OK)
      } finally {
        store.close?.()
      }
    },
  )
}

function action(command: Command, name: string, summary: string): Command {
  const own = command.command(name).description(summary).helpOption('-h, --help', 'print this help').exitOverride()
  return withCommonOptions(own).option(
    '--store-file <file>',
    'the file that says which store (default: MAPPA_STORE, else settings.store.json)',
  )
}

async function withStore(
  options: StoreOptions,
  readsOthers: boolean,
  act: (opened: Opened) => void | Promise<void>,
): Promise<void> {
  const project = await Project.open(options)
  const { stage } = project.stage(options.stage)
  const store = await openProjectStore(project, options)
  try {
    const state = await getState(store, stage)
    const { root, definition } = project
    const others = readsOthers
      ? await listStates(
          store,
          definition.stages.filter((each) => each !== stage),
        )
      : null
    const comparison = compareStore({ root, definition, store, state, others })
    await act({ project, store, state, comparison })
  } finally {
    store.close?.()
  }
}

/** What a store holds for other stages, as far as it may be read: its user may be that of one stage. */
async function listStates(store: Store, stages: readonly string[]): Promise<readonly StoreState[]> {
  const states = await Promise.all(stages.map((stage) => getState(store, stage).catch(() => null)))
  return states.filter((each) => each !== null)
}

async function send(names: readonly string[], options: StoreOptions, exitWith: (code: number) => void): Promise<void> {
  await withStore(options, false, async ({ project: { root, definition }, store, state, comparison }) => {
    const { stage } = comparison
    if (store.write === undefined) throw refusal(store, stage, 'store-not-writable')
    const plan = planSend({ root, definition, comparison, names, remove: options.remove ?? [] })
    if (!options.json) printSend(comparison, plan, 'planned', options)
    const mayWrite =
      plan.changes.length > 0 && (await mayContinue(options, `Send this to ${store.describe()}/${stage}?`))
    const by = `${userInfo().username}@${hostname()}`
    const revision = mayWrite ? await told(store, stage, store.write(plan.changes, state, { by })) : null
    printSend(
      { ...comparison, revision: revision ?? comparison.revision },
      plan,
      mayWrite ? 'sent' : 'not sent',
      options,
    )
    exitWith(EXIT_OK)
  })
}

async function fetchValues(
  names: readonly string[],
  options: StoreOptions,
  exitWith: (code: number) => void,
): Promise<void> {
  await withStore(options, false, async ({ project: { root, definition }, state, comparison }) => {
    const plan = planFetch(root, definition, comparison, state, names)
    if (!options.json) printFetch(comparison, plan, 'planned', options)
    const mayWrite = plan.rows.length > 0 && (await mayContinue(options, 'Write this into the files?'))
    if (mayWrite) await applyFetch(root, plan)
    printFetch(comparison, plan, mayWrite ? 'written' : 'not written', options)
    exitWith(EXIT_OK)
  })
}

async function mayContinue({ yes, json }: StoreOptions, question: string): Promise<boolean> {
  if (yes === true) return true
  return !json && process.stdin.isTTY === true && confirm(question)
}

/** What a store answers; what goes wrong with it as a problem. */
async function told<Result>(store: Store, stage: string, answer: Promise<Result>): Promise<Result> {
  try {
    return await answer
  } catch (error) {
    throw new SettingsError({ title: 'The store', stage, problems: [unreadProblem(store, error)] })
  }
}

function refusal(store: Store, stage: string, code: 'store-not-writable' | 'store-no-history'): SettingsError {
  return new SettingsError({
    title: 'The store',
    stage,
    problems: [storeCommandProblem(code, { store: store.describe() })],
  })
}
