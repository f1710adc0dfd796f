import { KEY_PARAMETER, USER_IN_ADDRESS } from '../../../../mappa/src/core/leaks/credentials.ts'
import { isRandom } from '../../../../mappa/src/core/leaks/shapes.ts'
import { ADDRESS, CONNECTION } from '../../../../mappa/src/core/leaks/vocabulary.ts'
import { CALLS, CONNECTS, KEYED, LISTENS, LOGS_IN, SIGNS as SIGNED } from './callees.ts'
import { classify } from './classify.ts'
import { CONNECTING } from './signals.ts'

/** Words of a table, as one pattern. */
const anyOf = (words: Iterable<string>) => [...words].join('|')

const NAMES = 'pass|pwd|secret|credential|key|token|auth|bearer|salt|cookie|jwt|licen[cs]e|signature|pin|appid'
/** Names that an address or a host is given to, and functions that one is passed to. */
const TAKES_ADDRESS = new RegExp(
  `(?:${anyOf([...ADDRESS, ...CONNECTION])})|\\b(?:${anyOf([...CALLS, ...CONNECTS])})\\s*\\(|${CONNECTING.source}`,
  'i',
)
/** Where an address or the name of a machine begins that is a text or the beginning of one; names of files are none. */
const ADDRESS_TEXT =
  /["'`](?:(?:https?|wss?|tcp|tls|ssl|grpcs?):\/\/[^"'`\s]|[\w-]+(?:\.[\w-]+)*\.(?!(?:[cm]?[jt]sx?|json|css|html?|md|vue|svg|png|map|ya?ml|xml|txt|py|rb|go|php)["'`])[a-z]{2,}(?::\d+)?["'`])/g

/** What can be told apart by a pattern alone, and a piece of text without which the pattern need not be tried. */
const SIGNS: readonly (readonly [needs: string, pattern: RegExp])[] = [
  ['env', /process\s*\??\.\s*env|import\.meta\s*\??\.\s*env|\benv\b[^\n]{0,40}\bprocess\b/],
  ['PRIVATE KEY-', /PRIVATE KEY-/],
  [
    '://',
    /(?:postgres(?:ql)?|mysql|mariadb|mongodb(?:\+srv)?|rediss?|amqps?|mqtts?|nats|kafka|ldaps?|smtps?|s?ftp|sqlserver|cockroachdb|clickhouse|jdbc:\w+):\/\/|:\/\/[^\s/"'`@]*:[^\s"'`@]+@/i,
  ],
  ['=', /[;,"'`]\s*(?:password|pwd|\w*_?key)\s*=/i],
  ['=', /["'`](?:pgsql|mysql|sqlsrv|oci|dblib|odbc):\w+=|\b(?:host|dbname)=\S+\s+\w+=/i],
  ['@', /@(?:tcp|udp|unix)\(/],
  ['${', /["']\$\{[\w.-]+:[^{}"'\n]{4,}\}["']/],
  ['', /["'`](?:(?:https?|wss?|tcp):\/\/)?(?:localhost|127\.|0\.0\.0\.0|10\.\d|192\.168\.|172\.|\[::)/],
  ['', /["'`]:\d{2,5}["'`]/],
  ['://', /(?:https?|wss?):\/\/[^/"'`\s]+[^"'`\n]*\$?\{/],
  // Types, calls and conditions may stand between.
  ['', /(?:(?<![a-z])port|Port|PORT)(?![a-z])[^;\n]{0,60}?\b\d{2,5}\b/],
  ['', new RegExp(`\\b(?:${anyOf(LISTENS)})\\s*\\([^)\\n]*\\d{2}`)],
  ['', new RegExp(`(?:${CONNECTING.source})\\w*\\s*\\([^)\\n]*\\b\\d{2,5}\\b`, 'i')],
  ['', new RegExp(`\\b(?:${anyOf(SIGNED)})\\s*\\([^)\\n]*,\\s*b?["'\`]`)],
  ['', /(?:bucket|queue|table|topic|region)(?:[_-]?name)?["'\]]?\s*(?:[:=,(])/i],
  ['@', /(?:from|sender|reply_?to|mail|address)\w*["'\]]?\s*(?:=>|[:=,(])\s*["'`]/i],
  ['_', /["'`][a-z]{2,6}_(?:live|prod|production|test|sandbox|secret|sk|pk)_/i],
  ['=', KEY_PARAMETER],
  ['@', USER_IN_ADDRESS],
]

/** A name that may say that what it is given or passed is a secret. */
const NAME = new RegExp(`(?:${NAMES}|${anyOf([...KEYED, ...LOGS_IN])})[\\w$]*`, 'gi')

/** Texts of JavaScript, whatever quotes stand in them, and what a template begins with. */
const TEXT = /"((?:[^"\\\n]|\\.){0,400})"|'((?:[^'\\\n]|\\.){0,400})'|`((?:[^`\\$]|\\.|\$(?!\{)){0,400})(?:`|\$\{)/g

/** How far apart a name and its value may stand, in characters: types, calls and conditions may stand between. */
const NEAR = 160

/** A text of one run of characters, with a digit in it. */
const RUN = /["'`](?:[A-Za-z]+ )?(?=[^"'`\n]*\d)([\w+/=.~:-]{12,4096})["'`]/g

/**
 * What a file must hold for a value in it to be judged a setting, or for a read to be found in it. Kept wider than the
 * classification: it only saves parsing what can hold neither.
 *
 * @returns true for a text that may hold what a survey looks for
 */
export function mayContainFindings(source: string): boolean {
  // Texts joined by + are one.
  const text = source.replace(/(["'`])\s*\+\s*\1/g, '')
  if (SIGNS.some(([needs, pattern]) => text.includes(needs) && pattern.test(text))) return true
  for (const { index } of text.matchAll(ADDRESS_TEXT))
    if (TAKES_ADDRESS.test(text.slice(Math.max(0, index - NEAR), index))) return true
  for (const [, run] of text.matchAll(RUN)) if (isTelling(run!) || isPrefixed(run!)) return true
  for (const { 0: end, index } of text.matchAll(NAME)) if (namesSetting(text, index, index + end.length)) return true
  return false
}

/** True for a name, of which the last word is known, with a value behind it that may be a setting. */
function namesSetting(text: string, lastWord: number, end: number): boolean {
  let start = lastWord
  while (start > 0 && /[\w$]/.test(text[start - 1]!)) start--
  const name = text.slice(start, end)
  // A name may be a text itself.
  const behind = end + (/["'`]/.test(text[end] ?? '') ? 1 : 0)
  for (const [, double, single, template] of text.slice(behind, behind + NEAR + 400).matchAll(TEXT))
    if (isNamedSetting(name, double ?? single ?? template!)) return true
  return false
}

/** True where the name right before a value makes it a setting. What is further out can only be known by parsing. */
function isNamedSetting(name: string, value: string): boolean {
  const place = { file: '', line: 1, column: 1, start: 0, end: 0, form: 'text', variable: null } as const
  return value.length >= 4 && classify({ ...place, value, names: [name], callee: name }) !== null
}

/** Random text with more digits than a word has; parts of a path have to have more of them still. */
function isTelling(run: string): boolean {
  const digits = run.match(/\d/g)?.length ?? 0
  return digits >= (run.includes('/') ? 5 : 2) && isRandom(run)
}

/** As `classifyCall` knows keys: a few letters, and digits and letters at random. */
function isPrefixed(run: string): boolean {
  return /^[a-z]{2,6}[-_](?:\w*[-_])?(?=(?:[A-Za-z]*\d){3})[A-Za-z0-9]{8,}$/.test(run)
}
