import { escapeInvisible } from '@mappa/core/text/escape-invisible'
import { path } from '@mappa/node/fs/builtin'
import { isUnfinished } from '../../analysis/init/init.ts'
import { type PackageSetUp, type PackagesPlan, setUpPackages } from '../../analysis/init/packages.ts'
import type { SharedVariable } from '../../analysis/init/shared-variables.ts'
import { EXIT_OK, EXIT_PROBLEMS } from '../../command-line/exit-codes.ts'
import { columns } from '../../terminal/columns.ts'
import { printJson } from '../../terminal/json.ts'
import { askToSetUpPackages } from '../../terminal/prompts.ts'
import { out } from '../../terminal/streams.ts'
import { printCopies } from './render.ts'

interface InitOptions {
  readonly yes?: boolean
  readonly json?: boolean
}

/**
 * Sets up the packages of a repository, after showing what they share. Without a terminal and without consent nothing is written.
 *
 * @returns what to end with
 */
export async function initPackages(plan: PackagesPlan, { yes = false, json = false }: InitOptions): Promise<number> {
  if (!json) printPlan(plan)
  const asks = !json && process.stdin.isTTY === true
  const isAgreed = plan.packages.length > 0 && (yes || (asks && (await askToSetUpPackages(plan.packages.length))))
  const done = isAgreed ? await setUpPackages(plan) : []
  if (json) printJson(asData(plan, done))
  else printOutcome(plan, done)
  return done.some(({ setUp }) => isUnfinished(setUp)) ? EXIT_PROBLEMS : EXIT_OK
}

function asData(
  { packages, defined, without, shared, module, stages, known, declared }: PackagesPlan,
  done: readonly PackageSetUp[],
) {
  const directories = (list: readonly { readonly directory: string }[]) => list.map(({ directory }) => directory)
  return {
    shared: shared.map(({ name, users, draft, moves }) => ({ name, users, shared: draft !== null, moves })),
    module,
    stages,
    known,
    broken: declared.broken,
    proposed: directories(packages.map(({ each }) => each)),
    defined: directories(defined),
    without: directories(without),
    packages: done.map(({ each, setUp }) => ({ package: each.name, directory: each.directory, ...setUp })),
  }
}

function printPlan(plan: PackagesPlan): void {
  const { workspace, packages, defined, without, shared, module } = plan
  const { paint, print } = out
  const names = (list: readonly { readonly name: string }[]) => list.map(({ name }) => name).join(', ')
  if (packages.length > 0)
    print(paint.faint(`Packages that get a definition: ${names(packages.map(({ each }) => each))}.`))
  if (defined.length > 0) print(paint.faint(`Have one already: ${names(defined)}.`))
  if (without.length > 0) print(paint.faint(`Read no variables and have no env files: ${names(without)}.`))
  for (const pattern of workspace.unmatched)
    print(paint.faint(`No directory matches ${escapeInvisible(pattern)}, which the workspaces name.`))
  for (const directory of workspace.outside)
    print(paint.faint(`${escapeInvisible(directory)} is a link out of the repository, and is left out.`))
  const same = shared.filter(({ draft }) => draft !== null)
  const different = shared.filter(({ draft }) => draft === null)
  if (same.length > 0) {
    print(`\n${paint.strong('Shared by several packages')}, with values in the layer files of this directory:\n`)
    const rows = same.map((each) => [paint.strong(each.name), each.users.join(', '), listValues(each)])
    print(columns([['NAME', 'USED BY', 'VALUES NOW'].map(paint.faint), ...rows]))
    if (module !== null) print(`\nTheir settings are declared once, in ${paint.strong(module)}.`)
  }
  if (different.length > 0)
    print(
      `\nUsed by several packages with different values, so each keeps its own: ${different.map(({ name, users }) => `${name} (${users.join(', ')})`).join(', ')}.`,
    )
  printWhatIsThere(plan)
}

/** What a person has to know of the definitions that are there already. */
function printWhatIsThere({ packages, stages, known, declared }: PackagesPlan): void {
  const { paint, print } = out
  if (packages.length === 0) return
  if (declared.broken.length > 0)
    print(
      `\n${paint.error("Definitions that can't be loaded")}, so that nothing is known of what they declare: ${declared.broken.join(', ')}. ${paint.strong('mappa check')} says what is wrong with them.`,
    )
  if (declared.otherStages.length > 0)
    print(`\nNew packages get the stages ${stages.join(', ')}. Not all have these: ${declared.otherStages.join(', ')}.`)
  if (known.length > 0) {
    print(`\n${paint.strong('Declared already by other packages')}; each new definition gets a setting of its own:\n`)
    const rows = known.map((each) => [paint.strong(each.name), each.users.join(', '), each.declaredBy.join(', ')])
    print(columns([['NAME', 'USED BY', 'DECLARED BY'].map(paint.faint), ...rows]))
    print('\nTo share one, take it from the shared part that declares it, and name its directory in layersFrom.')
  }
}

function listValues({ moves }: SharedVariable): string {
  if (moves.length === 0) return 'stay where they are, if there are any'
  const files = [...new Set(moves.map(({ to }) => to))].join(', ')
  return `the same in ${new Set(moves.map(({ from }) => from)).size} files; move into ${files}`
}

function printOutcome({ packages, defined, module }: PackagesPlan, done: readonly PackageSetUp[]): void {
  const { paint, print } = out
  if (packages.length === 0) {
    print(
      defined.length > 0
        ? 'Everything is already set up. Nothing was changed.'
        : 'No package reads variables or has env files. Nothing was changed.',
    )
    return
  }
  if (done.length === 0) {
    print(`\nNothing was written. ${paint.strong('mappa init --yes')} sets the packages up like this.`)
    return
  }
  print('')
  for (const { each, setUp } of done)
    print(`${paint.strong(each.directory)}: written ${escapeInvisible(setUp.written.join(', '))}`)
  const copies = done.flatMap(({ each, setUp }) =>
    setUp.copies.map(({ file, names }) => [path.posix.join(each.directory, file), names] as const),
  )
  // Of the package at the root, those of all packages are told as well.
  printCopies([...new Map(copies)].map(([file, names]) => ({ file, names })))
  const unread = done.flatMap(({ each, setUp }) => setUp.unread.map((file) => `${each.directory}/${file}`))
  if (unread.length > 0)
    print(
      `${paint.error("Env files that can't be read in full")}, so they may still contain secrets: ${unread.join(', ')}.`,
    )
  const open = done.flatMap(({ each, setUp }) =>
    setUp.open.map(({ name, from }) => `${name} (${each.directory}/${from})`),
  )
  if (open.length > 0)
    print(
      `${paint.error('Secrets with a different value in the .local file')}, left for you to decide: ${open.join(', ')}.`,
    )
  print(`\nNext steps:
  Check the definitions${module === null ? '' : ` and ${module}`}: are kinds, secrets and descriptions right?
  See what is missing in all packages with ${paint.strong('mappa check --all')}.
  Set a value for all of them with ${paint.strong('mappa set NAME --stage STAGE --shared')}.`)
}
