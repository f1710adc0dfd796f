import { describeOriginLabel } from '@mappa/core/layers/layer'
import { describeSettings, formatReport } from '@mappa/core/problems/report'
import type { ResolvedSetting } from '@mappa/core/resolve/resolved-setting'
import { displayValue } from '@mappa/core/secret/display'
import { mask } from '@mappa/core/secret/secret'
import { escapeInvisible } from '@mappa/core/text/escape-invisible'
import { type Inspection, toReport } from '@mappa/node/load/inspect'
import type { ChosenStage } from '@mappa/node/project/stage'
import { listPresentStages } from '@mappa/node/sources/present-stages'
import type { Project } from '../../project/project.ts'
import { columns } from '../../terminal/columns.ts'
import { makeLabel } from '../../terminal/failure.ts'
import { printJson, settingAsData, stageAsData } from '../../terminal/json.ts'
import { err, out } from '../../terminal/streams.ts'
import { listAllReferences } from '../../views/references.ts'
import { stageStory } from '../../views/story.ts'

interface ShowOptions {
  readonly json?: boolean
  readonly reveal?: boolean
}

/** Prints every setting with its value and where that comes from; problems follow on standard error. */
export function printSettings(inspection: Inspection, options: ShowOptions): void {
  const reveal = options.reveal === true
  if (options.json) {
    printJson(stageAsData(inspection, reveal))
    return
  }
  const { settings, stage, program, stageFrom, root, problems } = inspection
  const { paint, print } = out
  const label = makeLabel(root)
  print(`${paint.strong(describeSettings(stage, program))} ${paint.faint(`(named by ${stageFrom})`)}\n`)
  const names = Math.max(...settings.map(({ declaration }) => declaration.name.length))
  const widest = Math.max(24, (out.width ?? Number.POSITIVE_INFINITY) - names - 42)
  // Only some values have a day on which they were set.
  const dated = settings.some((each) => describeDate(each) !== null)
  const rows = settings.map((setting) => [
    paint.strong(setting.declaration.name),
    shownValue(setting, reveal, widest),
    paint.faint(describeOrigin(setting, inspection, label)),
    ...(dated ? [paint.faint(describeDate(setting) ?? '')] : []),
    paint.faint(describe(setting)),
  ])
  print(columns([['NAME', 'VALUE', 'FROM', ...(dated ? ['SET ON'] : []), 'KIND'].map(paint.faint), ...rows]))
  if (problems.length > 0) {
    err.print(`\n${formatReport(toReport(inspection), { paint: err.paint, width: err.width, fileLabel: label })}`)
  }
}

/** Prints what each layer says about one setting, lowest first, and why the winner won. */
export function printLayers(inspection: Inspection, setting: ResolvedSetting, options: ShowOptions): void {
  const reveal = options.reveal === true
  const { declaration } = setting
  const problems = inspection.problems.filter((each) => each.setting === declaration.path)
  if (options.json) {
    const { stage, root } = inspection
    const candidates = setting.candidates().map(({ origin }) => origin)
    const references = listAllReferences(setting.candidates()[0]?.value ?? '', inspection)
    printJson({
      ...stageAsData({ ...inspection, settings: [setting], problems }, reveal),
      stage,
      root,
      ...settingAsData(setting, reveal),
      candidates,
      references: references.map(({ name, depth, shown, place }) => ({ name, depth, shown, from: place })),
    })
    return
  }
  const { paint, print } = out
  const label = makeLabel(inspection.root)
  const story = stageStory(declaration, setting, inspection, { reveal, fileLabel: label })
  print(`${paint.strong(declaration.name)} ${paint.faint(`(${declaration.path}, ${describe(setting)})`)}`)
  print(`${escapeInvisible(declaration.description)}\n`)
  const rows = story.layers.map(({ state, place, shown, setOn: day }) => {
    if (state !== 'in use' && state !== 'overridden') return ['', place, paint.faint(state)]
    const since = day === null ? '' : paint.faint(`  set on ${day}`)
    const value = `${shown ?? paint.error('(invalid, see below)')}${since}`
    return state === 'in use' ? ['▸', paint.strong(place), value] : ['', place, value]
  })
  print(columns([['', 'LAYER, LOWEST FIRST', `VALUE IN ${inspection.stage.toUpperCase()}`].map(paint.faint), ...rows]))
  print(`\n${story.verdict}`)
  printReferences(setting, inspection, label)
  if (problems.length > 0) {
    const report = { stage: inspection.stage, problems }
    err.print(`\n${formatReport(report, { paint: err.paint, width: err.width, fileLabel: label })}`)
  }
}

/** Prints what the value in use refers to, and where each of those comes from. */
function printReferences(setting: ResolvedSetting, inspection: Inspection, label: (file: string) => string): void {
  const references = listAllReferences(setting.candidates()[0]?.value ?? '', inspection)
  if (references.length === 0) return
  const { paint, print } = out
  const rows = references.map(({ name, depth, shown, place, file, line }) => [
    `${'  '.repeat(depth)}${name}`,
    shown ?? paint.faint('(not set)'),
    paint.faint(escapeInvisible(file === null ? (place ?? '') : `${label(file)}:${line ?? 1}`)),
  ])
  print(`\n${columns([['IT REFERS TO', 'VALUE', 'FROM'].map(paint.faint), ...rows])}`)
}

/** Prints what wins in the other stages, one line for each. */
export function printOtherStages(project: Project, chosen: ChosenStage, path: string, options: ShowOptions): void {
  const others = listPresentStages(project.root, project.definition).filter((stage) => stage !== chosen.stage)
  if (others.length === 0) return
  const { paint, print } = out
  const label = makeLabel(project.root)
  const stages = [chosen, ...others.map((stage) => ({ stage, from: 'mappa show' }))]
  const rows = stages.slice(1).map((stage) => {
    const inspection = project.inspect(stage, stages)
    const setting = inspection.settings.find(({ declaration }) => declaration.path === path)!
    const value = shownValue(setting, options.reveal === true, 60)
    return [stage.stage, value, paint.faint(describeOrigin(setting, inspection, label))]
  })
  print(`\n${columns([['IN OTHER STAGES', 'VALUE', 'FROM'].map(paint.faint), ...rows])}`)
}

function shownValue(setting: ResolvedSetting, reveal: boolean, widest: number): string {
  const { paint } = out
  if (setting.text === undefined) {
    if (setting.valid) return paint.faint('(not set)')
    return paint.error(setting.origin === null ? '(missing)' : '(invalid)')
  }
  const options = { secret: setting.masked, reveal, widest }
  if (!setting.valid) return paint.error(displayValue(setting.text, options))
  // Of bytes, how many there are is told, not how many characters they are written with.
  if (setting.masked && !reveal && setting.value instanceof Uint8Array) return mask(setting.value)
  // As the program gets it: DOME_MOTORS=yes is shown as true.
  const bare = typeof setting.value !== 'string'
  return displayValue(setting.declaration.kind.toText(setting.value, setting.declaration.options), { ...options, bare })
}

function describeOrigin(
  { candidates, origin }: ResolvedSetting,
  { layers }: Inspection,
  label: (file: string) => string,
): string {
  if (origin === null) return ''
  const candidate = candidates().find((each) => each.origin.layer === origin.layer)
  const title = candidate?.layer.title ?? layers.find((layer) => layer.id === origin.layer)?.title ?? origin.layer
  return escapeInvisible(
    describeOriginLabel({ ...origin, file: origin.file === null ? null : label(origin.file) }, title),
  )
}

function getKind({ declaration }: Pick<ResolvedSetting, 'declaration'>): string {
  const ofPages = declaration.public ? ', public' : ''
  return `${declaration.kind.name}${declaration.secret ? ', secret' : ofPages}`
}

function describe({ declaration }: ResolvedSetting): string {
  const words = [getKind({ declaration })]
  if (declaration.optional) words.push('optional')
  else if (declaration.default === undefined) words.push('required')
  return words.join(', ')
}

/** The day on which the value in use was set, where its file says so. */
function describeDate({ candidates, origin }: ResolvedSetting): string | null {
  if (origin === null) return null
  return (
    candidates()
      .find((each) => each.origin.layer === origin.layer)
      ?.setOn() ?? null
  )
}
