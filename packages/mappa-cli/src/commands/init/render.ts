import { isForAllStages } from '@mappa/core/layers/env-file-name'
import type { Problem } from '@mappa/core/problems/problem'
import { formatReport } from '@mappa/core/problems/report'
import { escapeInvisible } from '@mappa/core/text/escape-invisible'
import type { SetUp } from '../../analysis/init/init.ts'
import type { OpenSecret } from '../../analysis/init/relocate.ts'
import type { ProjectSummary } from '../../analysis/init/summary.ts'
import { printJson, problemAsData } from '../../terminal/json.ts'
import { out } from '../../terminal/streams.ts'

/** Says what was found before anything is written. */
export function printSummary({ definition, envFiles, reads, usesVite, framework }: ProjectSummary): void {
  const { paint, print } = out
  const found = [
    definition === null ? 'no definition yet' : `a definition (${definition})`,
    envFiles.length === 0 ? 'no env files' : envFiles.join(', '),
    reads.length === 0
      ? 'the code reads no variables'
      : `${reads.length} variable${reads.length === 1 ? '' : 's'} that the code reads`,
    ...(framework === null ? [] : [framework.title]),
    ...(usesVite && framework === null ? ['Vite'] : []),
  ]
  print(paint.faint(`Found: ${escapeInvisible(found.join('; '))}.`))
}

/** Says what was written, and what comes next. */
export function printSetUp(
  setUp: SetUp & { readonly wrong: readonly Problem[] },
  { inRepository, definition, place, usesVite, framework, libraryMissing, reads }: ProjectSummary,
  { json }: { json?: boolean },
): void {
  if (json) {
    printJson({ ...setUp, wrong: setUp.wrong.map(problemAsData) })
    return
  }
  const { written, kept, settings, moved, open, copies, unread, module, withoutPlugin, wrong } = setUp
  const { paint, print } = out
  if (written.length === 0 && moved.length === 0)
    print(`Everything is already set up, with ${settings} setting${settings === 1 ? '' : 's'}. Nothing was changed.`)
  else if (written.length > 0) print(`Written: ${written.map((file) => paint.strong(file)).join(', ')}.`)
  if (written.length > 0 && kept.length > 0) print(paint.faint(`Unchanged: ${kept.join(', ')}.`))
  if (!inRepository) print(paint.faint('This is not a git repository, so no ignore rules were written.'))
  printMovedSecrets(moved, inRepository)
  printOpenSecrets(open)
  printCopies(copies)
  if (unread.length > 0)
    print(
      `${paint.error("Env files that can't be read in full")}, so they may still contain secrets: ${unread.join(', ')}. ${paint.strong('mappa check')} says why.`,
    )
  if (wrong.length > 0)
    print(
      `\n${formatReport({ stage: null, title: 'Values that break a rule', problems: wrong }, { paint, width: out.width })}`,
    )
  if (written.length > 0)
    printNextSteps(definition ?? place, { module, withoutPlugin }, { usesVite, framework, libraryMissing, reads })
}

const joinSecrets = (secrets: readonly OpenSecret[]) => secrets.map(({ name, from }) => `${name} (${from})`).join(', ')

function printMovedSecrets(moved: SetUp['moved'], inRepository: boolean): void {
  const { paint, print } = out
  for (const to of new Set(moved.map((each) => each.to)))
    print(`Moved into ${paint.strong(to)}, which git ignores: ${joinSecrets(moved.filter((each) => each.to === to))}.`)
  if (moved.some(({ from }) => isForAllStages(from)))
    print(paint.faint('They were for all stages. mappa check --all lists the stages that need a value of their own.'))
  if (moved.length > 0 && inRepository)
    print(paint.faint('Whatever was committed stays in the history: mappa guard --history lists the keys to rotate.'))
}

/** Says which files have secrets and are read by no stage. */
export function printCopies(copies: SetUp['copies']): void {
  if (copies.length === 0) return
  const { paint, print } = out
  const list = copies.map(({ file, names }) => `${escapeInvisible(file)} (${names.join(', ')})`).join(', ')
  print(
    `${paint.error('Secrets in files that no stage reads, and that git has or would take along')}: ${list}. Write what is needed with ${paint.strong('mappa set')}, then delete them.`,
  )
}

/** Says which secrets are still in files that git does not ignore. */
function printOpenSecrets(open: readonly OpenSecret[]): void {
  const { paint, print } = out
  const contradicted = open.filter((each) => each.contradicted)
  if (contradicted.length > 0)
    print(
      `${paint.error('Secrets with a different value in the .local file')}, left for you to decide: ${joinSecrets(contradicted)}.`,
    )
  const left = open.filter((each) => !each.contradicted)
  if (left.length > 0)
    print(
      `${paint.error('Secrets in files that git does not ignore')}: ${joinSecrets(left)}. ${paint.strong('mappa init --yes')} moves them.`,
    )
}

function printNextSteps(
  definition: string,
  { module, withoutPlugin }: Pick<SetUp, 'module' | 'withoutPlugin'>,
  {
    usesVite,
    framework,
    libraryMissing,
    reads,
  }: Pick<ProjectSummary, 'usesVite' | 'framework' | 'libraryMissing' | 'reads'>,
): void {
  const { paint, print } = out
  const install = `  Install the library, which programs import: ${paint.strong('npm install mappa-settings')}\n`
  const where = framework === null ? 'your code' : 'code of the server'
  const inCode = `  Use settings in ${where}: ${paint.strong(`import { settings } from '${toSpecifier(module, framework)}'`)}\n`
  const ofFramework = (framework?.steps ?? []).map((each) => `  ${each}\n`).join('')
  const asItIs = `  Code that reads process.env stays as it is: ${paint.strong('node --import mappa-settings/preload')} fills it from the files.\n`
  const byRun = `  Start the program with ${paint.strong('mappa run -- COMMAND')}: it checks the settings first, and passes their values on.\n`
  const inPages = `  In pages: ${paint.strong("import { settings } from 'virtual:mappa/browser'")}\n`
  const byHand = `  Add the plugin to ${withoutPlugin}: ${paint.strong("import mappa from 'mappa-settings/vite'")}, and mappa() among its plugins\n`
  print(`\nNext steps:
${libraryMissing ? install : ''}  Check ${definition}: are kinds, secrets and descriptions right?
${module === null ? '' : inCode}${module !== null && framework === null && reads.some(isOfProcess) ? asItIs : ''}${definition.endsWith('.json') ? byRun : ''}${ofFramework}${withoutPlugin === null ? '' : byHand}${usesVite ? inPages : ''}  Write values with ${paint.strong('mappa set')}, and see what is missing with ${paint.strong('mappa check --all')}.
  Find what is still in the code with ${paint.strong('mappa survey')}, and secrets in git with ${paint.strong('mappa guard --history')}.`)
}

/** What code imports. Bundlers of frameworks find a module without its ending, and compilers often refuse it. */
function toSpecifier(module: string | null, framework: ProjectSummary['framework']): string {
  if (module?.startsWith('virtual:')) return module
  return `./${framework === null ? module : module?.replace(/\.[jt]s$/, '')}`
}

/** True for a variable that a program of Node reads from its environment. */
function isOfProcess({ built, places }: ProjectSummary['reads'][number]): boolean {
  return !built && places.some(({ file }) => /\.[cm]?[jt]sx?$/.test(file))
}
