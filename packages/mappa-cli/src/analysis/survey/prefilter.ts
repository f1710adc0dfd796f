import { KEY_PARAMETER, USER_IN_ADDRESS } from '@mappa/core/credentials/credentials'
import { OF_SECRETS } from '@mappa/core/credentials/vocabulary'
import { LISTENS, SIGNS as SIGNED } from './callees.ts'
import { classify } from './classify.ts'
import { countWays, isPortNumber, NOWHERE, WAYS, waysOfName } from './plausible.ts'
import { CONNECTING } from './signals.ts'

/** Words of a table, as one pattern. */
const matchAny = (words: Iterable<string>) => [...words].join('|')

/** Where a number stands that is a port: types, calls and conditions may stand between. */
const BEFORE_NUMBER = new RegExp(
  `(?:(?<![a-z])port|Port|PORT)(?![a-z])[^;\\n]{0,60}$|(?:(?<![a-z])ports|Ports|PORTS)(?![a-z])[^;]{0,200}$|\\b(?:${matchAny(LISTENS)})\\s*\\([^)\\n]*$|(?:${ignoreCase(CONNECTING.source)})\\w*\\s*\\([^)\\n]*$`,
)

/** A pattern of words that holds for each word in small letters and with a capital. */
function ignoreCase(words: string): string {
  return words.replace(/[a-z]+/g, (word) => `[${word[0]}${word[0]!.toUpperCase()}]${word.slice(1)}`)
}

/** What can be told apart by a pattern alone, and pieces of text without which the pattern need not be tried. */
const SIGNS: readonly (readonly [needs: readonly string[], pattern: RegExp])[] = [
  [
    ['env', 'loadEnv'],
    /(?:process|Bun)\s*\??\.\s*env|import\.meta\s*\??\.\s*env|\benv\b[^\n]{0,40}\bprocess\b|\bloadEnv\b/,
  ],
  [['env', 'Env', 'ENV'], /env\w*(?:\.\w+)?\s*\(\s*["'`][A-Z][A-Z0-9_]+["'`]/i],
  [['PRIVATE KEY-'], /PRIVATE KEY-/],
  [['@tcp(', '@udp(', '@unix('], /@/],
  [['"${', "'${"], /["']\$\{[\w.-]+:[^{}"'\n]{4,}\}["']/],
  [
    [...[...SIGNED].map((each) => `${each}(`), 'code('],
    new RegExp(`\\b(?:${matchAny(SIGNED)}|jwt\\W{1,2}(?:en|de)code)\\s*\\([^)\\n]*,\\s*b?["'\`]`, 'i'),
  ],
  [['='], KEY_PARAMETER],
  // Texts of many lines are in no quotes that a line shows.
  [['<<', '"""', "'''"], /(?:^|[;,"'`\s])\s*(?:password|pwd|\w*_?key)\s*=\s*[^\s=]/i],
  [['<<', '"""', "'''"], /\b(?:host|dbname)=\S+\s+\w+=/i],
]

/** What an address has that is judged a setting wherever it stands, from a little before its `://` on. */
const ADDRESSES: readonly RegExp[] = [
  /(?:postgres(?:ql)?|mysql|mariadb|mongodb(?:\+srv)?|rediss?|amqps?|mqtts?|nats|kafka|ldaps?|smtps?|s?ftp|sqlserver|cockroachdb|clickhouse|jdbc:\w+):\/\//i,
  /:\/\/[^\s/"'`@]*:[^\s"'`@]+@/,
  /(?:https?|wss?):\/\/[^/"'`\s]+[^"'`\n]*\$?\{/,
  /(?:https?|wss?):\/\/[^\s"'`]+["'`]\s*(?:\+(?![+=])|\.\s*[$'"(\w]|%\s*[\w(])/,
  /(?:https?|wss?):\/\/[^\s"'`]*%[sdv]/,
  USER_IN_ADDRESS,
]

/** Texts of JavaScript, whatever quotes stand in them, and what a template begins with. */
const TEXT =
  /"((?:[^"\\\n]|\\.){0,4096})"|'((?:[^'\\\n]|\\.){0,4096})'|`(?=((?:[^`\\$]|\\.|\$(?!\{)){0,4096})(?:`|\$\{))/g
/** A quote that is none: that of a word such as `don't`, in a comment. */
const APOSTROPHE = /^(?:t|s|re|ll|ve|d|m)\b|\*\//

/** Numbers with as many digits as ports have. */
const NUMBER = /(?<![\w.$])\d{2,5}(?![\w.])/g

/** Lines of comments, and what stands behind code: no text in them is a value, and no name in them names one. */
const COMMENT = /^[ \t]*(?:\/\/|\*[ \t/]|\/\*|# ).*|[ \t]\/\/ .*/gm

/** How far apart a name and its value may stand, in characters: types, calls and conditions may stand between. */
const NEAR = 400

/**
 * What a file must hold for a value in it to be judged a setting, or for a read to be found in it. Kept wider than the
 * classification, and made of its tables: it only saves parsing what can hold neither.
 *
 * @returns true for a text that may hold what a survey looks for
 */
export function mayContainFindings(source: string): boolean {
  for (const [needs, pattern] of SIGNS)
    if (needs.some((each) => source.includes(each)) && pattern.test(source)) return true
  return hasAddress(source) || hasPort(source) || namesOpenText(source) || hasText(joined(source))
}

/** Texts that are in no quotes of one line: of several lines, a heredoc, or as Ruby writes them, with what they are given to. */
const OPEN_TEXT =
  /(?<![\w$])([A-Za-z_$][\w$]*)["'\])]*\s*(?:=>|:=|[:=(,])\s*(?:[A-Za-z]{0,2}(?:"""|''')|<<[<~-]*\s*["'`]?[A-Za-z_]|%[qQ]?[([{<|!/]\S)/g

function namesOpenText(text: string): boolean {
  for (const [, name] of text.matchAll(OPEN_TEXT)) if (waysOfName(name!) !== 0) return true
  return false
}

/** Texts joined by + are one. */
const joined = (source: string) => source.replace(/(["'`])\s*\+\s*\1/g, '')

function hasAddress(text: string): boolean {
  for (let at = text.indexOf('://'); at >= 0; at = text.indexOf('://', at + 3)) {
    const around = text.slice(Math.max(0, at - 20), at + 400)
    if (ADDRESSES.some((each) => each.test(around))) return true
  }
  return false
}

function hasPort(text: string): boolean {
  for (const { 0: digits, index } of text.matchAll(NUMBER))
    if (isPortNumber(Number(digits)) && BEFORE_NUMBER.test(text.slice(Math.max(0, index - 200), index))) return true
  return false
}

function hasText(text: string): boolean {
  TEXT.lastIndex = 0
  for (let found = TEXT.exec(text); found !== null; found = TEXT.exec(text)) {
    const { 1: double, 2: single, 3: template, index } = found
    const raw = double ?? single ?? template!
    // What only looks like a text holds the beginning of the next one.
    if (single !== undefined && APOSTROPHE.test(single)) TEXT.lastIndex = index + 1
    const value = raw.includes('\\') ? raw.replace(/\\(.)/g, '$1') : raw
    const ways = countWays(value)
    if (ways !== 0 && mayBeSetting(text, index, value, ways)) return true
  }
  return false
}

/** True where what stands before a text, and the text, may make it a setting. */
function mayBeSetting(text: string, index: number, value: string, ways: number): boolean {
  const before = text.slice(Math.max(0, index - NEAR), index).replace(COMMENT, blankOut)
  if (before.endsWith(COMMENTED)) return false
  if ((ways & WAYS.alone) !== 0) return true
  // `{ api: { key: '...' } }`: what is around a key may make it a secret.
  const around = AROUND.test(before) ? ['api'] : []
  for (const [name] of before.matchAll(/[A-Za-z_$][\w$]*/g))
    if ((waysOfName(name) & ways) !== 0 && isNamedSetting([...around, name], value)) return true
  return false
}

/** Words around a key that make it one to keep: an object, or what holds one. */
const AROUND = new RegExp(`(?:${matchAny(OF_SECRETS)})\\w*["'\\]]*\\s*(?:=>|[:=.({[])`, 'i')

/** What stands for a comment; where a text follows, it is a part of it. */
const COMMENTED = '\u0000'
const blankOut = () => COMMENTED

/** True where the name before a value, or a function of that name, makes it a setting. */
function isNamedSetting(names: readonly string[], value: string): boolean {
  const callee = names.at(-1)!
  return [names, []].some((each) => classify({ ...NOWHERE, value, names: each, callee }) !== null)
}
