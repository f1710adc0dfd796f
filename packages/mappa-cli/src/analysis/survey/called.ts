import type { SourceLiteral } from '@mappa/source/source'
import { CALLS } from './callees.ts'

/** An address of a service, without a user or anything the code puts in. */
const ADDRESS = /^(?:https?|wss?):\/\/(?:[^\s${}]|\{\d*\})+$/i
/** A name that a fixed address is given to. */
const GIVEN = /(?<!\w)(\w+)["'\])]*\s*(?::\s*[\w<>|,&'? ]{1,40})?\s*(?:=>|:=|[:=])\s*[frbu]?["'`](?:https?|wss?):\/\//g

/** A name, behind what leads to it: `config.camera`, `this->camera`, `@camera`. */
const NAME = String.raw`(?<![\w$@.]|->|::)(?:[\w$@]+(?:\?\.|\.|->|::))*[$@]?(\w+)`
/** Functions that take an address, besides those that talk to it. */
const TAKE = [...CALLS, 'URL', 'urljoin', 'got', 'ky']

/** Where code goes on from an address, or hands it to what connects to it. */
const CALLED: readonly RegExp[] = [
  // `${camera}/frames`, {camera}/frames, #{camera}?night=4, and at the beginning of a text `${camera}frames`
  String.raw`[$#]?\{\s*${NAME}\s*\}(?=[/?])|["'\`][$#]?\{\s*${NAME}\s*\}(?=\w)`,
  // "$camera/frames"
  String.raw`\$(\w+)(?=[/?])`,
  // camera + '/frames', $camera . '/frames'
  String.raw`${NAME}\s*\+(?![+=])|${NAME}\s*[.~]\s*["'][/?]`,
  // Sprintf("%s/frames", camera), "{}/frames".format(camera)
  String.raw`(?:%[sv]|\{\d?\})[/?][^"'\`\n]{0,200}["'\`]\s*(?:,|%|\.format\()\s*\(?\s*${NAME}`,
  // fetch(camera), new URL('/frames', camera)
  String.raw`\b(?:${TAKE.join('|')})!?\s*\(\s*(?:["'\`][^"'\`\n]{0,200}["'\`]\s*,\s*)?&?${NAME}\s*[,)]`,
  // baseURL: camera, base_url=camera, --url
  String.raw`(?:\b|base_?)ur[il]["']?\s*[:=]\s*${NAME}\b(?!\s*[.(])`,
].map((each) => new RegExp(each, /base_/.test(each) ? 'gi' : 'g'))

/** Modules and classes in which programs keep their settings. */
const OF_SETTINGS =
  /(?:^|\/)(?:(?:config(?:uration)?|conf|cfg|settings|environments?|urls|endpoints|hosts)(?:\.\w+)?|(?:config|cfg|settings|environments?)\/[\w.-]+)\.(?:[cm]?[jt]s|py|rb|php|go|java|kt|cs|rs)$/i

/**
 * The names from which code goes on as from an address: `${camera}/frames`, `camera + '/frames'`, `fetch(camera)`.
 *
 * @param text the source of a file in any language
 */
function namesCalled(text: string): ReadonlySet<string> {
  const names = new Set<string>()
  for (const pattern of CALLED)
    for (const [, ...found] of text.matchAll(pattern)) names.add(found.find((each) => each !== undefined)!)
  return names
}

/**
 * Marks the addresses that the code of a file calls by a name that says nothing.
 *
 * @param literals those of one file
 * @param text the file
 */
export function withCalls(literals: readonly SourceLiteral[], text: string): readonly SourceLiteral[] {
  let names: ReadonlySet<string> | null = null
  return literals.map((each) => {
    if (each.form !== 'text' || !ADDRESS.test(each.value)) return each
    if (isCompleted(each, text)) return { ...each, isCalled: true }
    const name = each.names.at(-1)
    if (name === undefined) return each
    names ??= namesCalled(text)
    return names.has(name) || OF_SETTINGS.test(each.file) ? { ...each, isCalled: true } : each
  })
}

/** True where code goes on from an address right where it stands: `'https://...' + path`, `"https://.../%s" % path`. */
function isCompleted({ value, start, end, file }: SourceLiteral, text: string): boolean {
  // What a key is added to is not what tells one service from another.
  if (value.includes('?')) return false
  const after = text.slice(end, end + 16)
  if (/^\s*(?:\+(?![+=])|%\s*[\w(]|\.format\()/.test(after)) return true
  if (/\.php$/.test(file) && /^\s*\.\s*[$'"(\w]/.test(after)) return true
  return (
    /%[sdv]|\{\d*\}/.test(value) && /(?:printf|format)!?\s*\(\s*$/i.test(text.slice(Math.max(0, start - 30), start))
  )
}

/**
 * True for a file that may hold such an address.
 *
 * @param file its path
 */
export function mayCallAddress(text: string, file: string): boolean {
  if (!text.includes('://')) return false
  const given = [...text.matchAll(GIVEN)].map(([, name]) => name!)
  if (given.length === 0) return false
  if (OF_SETTINGS.test(file)) return true
  const names = namesCalled(text)
  return given.some((each) => names.has(each))
}
