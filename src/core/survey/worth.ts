import { reasonAgainst } from './against.ts'
import { isRandom } from './shapes.ts'

const NAMES = 'pass|pwd|secret|credential|key|token|auth|bearer|salt|cookie|jwt|licen[cs]e|signature|pin|appid'
const ADDRESSES =
  'url|uri|endpoint|host|origin|addr|server|gateway|upstream|backend|broker|domain|base|dsn|connection|database|db|hook|callback|redirect|proxy|registry|service|remote|issuer|authority|api|site|portal|feed|cdn'
/** What stands between a name and the value it is given. */
const GIVEN = `\\w*["'\\]]?\\s*(?:[:=,(]|\\|\\||\\?\\?|[!=]==?)\\s*`

/** What can be told apart by a pattern alone. */
const SIGNS: readonly RegExp[] = [
  /process\s*\??\.\s*env|import\.meta\s*\??\.\s*env|\benv\b[^\n]{0,40}\bprocess\b|PRIVATE KEY-/,
  /(?:postgres(?:ql)?|mysql|mariadb|mongodb(?:\+srv)?|rediss?|amqps?|mqtts?|nats|kafka|ldaps?|smtps?|s?ftp|sqlserver|cockroachdb|clickhouse|jdbc:\w+):\/\/|:\/\/[^\s/"'`@]*:[^\s"'`@]+@|[;"'`]\s*(?:password|pwd)\s*=|@(?:tcp|udp|unix)\(/i,
  /["'`](?:(?:https?|wss?|tcp):\/\/)?(?:localhost|127\.|0\.0\.0\.0|10\.\d|192\.168\.|172\.|\[::)/,
  /\b(?:fetch|\w*(?:connect|client|socket|request)\w*|get|post|put|patch|delete|axios|EventSource|io)\s*\(\s*["'`](?:https?|wss?):/i,
  /(?:https?|wss?):\/\/[^/"'`\s]+[^"'`\n]*\$\{/,
  /[pP](?:ort|ORT)["'\]]?\s*(?:[:=,(]|\|\||\?\?)\s*["']?:?\d{2,5}\b|\b(?:listen|serve|bind|connect|createConnection|createServer)\s*\([^)\n]*\d{2}/,
  /[?&]\w*(?:key|token|secret|appid|auth|sig)\w*=/i,
]

/** An address given to something that says so, or a host. */
const ADDRESS = new RegExp(
  `(?:${ADDRESSES})${GIVEN}["'\`](?:(?:https?|wss?):\\/\\/[^"'\`\\s]|[\\w-]+(?:\\.[\\w-]+)+(?::\\d+)?["'\`])`,
  'i',
)

/** A text given to something that may be a secret, or passed to something that signs or logs in. */
const NAMED = new RegExp(
  `(?:${NAMES}|sign|verify|pbkdf2|scrypt|createHmac|cipher|login|Sequelize)${GIVEN}(?:[^"'\`\\n]{0,60}?["'\`][\\w-]*["'\`]\\s*,\\s*)?(?:[\\w.]+\\(\\s*)?["'\`]([^"'\`\\n]{4,400})`,
  'gi',
)

/** A text of one run of characters, with a digit in it. */
const RUN = /["'`](?:[A-Za-z]+ )?(?=[^"'`\n]*\d)([\w+/=.~:-]{12,4096})["'`]/g

/**
 * What a file must hold for a value in it to be judged a setting, or for a read to be found in it. Kept wider than the
 * judgement: it only saves parsing what can hold neither.
 *
 * @returns true for a text that may hold what a survey looks for
 */
export function isWorthParsing(text: string): boolean {
  if (SIGNS.some((pattern) => pattern.test(text)) || ADDRESS.test(text)) return true
  for (const [, run] of text.matchAll(RUN)) if (isTelling(run!) || isPrefixed(run!)) return true
  for (const [, value] of text.matchAll(NAMED)) {
    const bare = value!.replace(/^\w+ (?=\S+$)/, '')
    if (/[^A-Za-z]/.test(bare) && reasonAgainst(bare, true) === null) return true
  }
  return false
}

/** Random text with more digits than a word has; parts of a path have to have more of them still. */
function isTelling(run: string): boolean {
  const digits = run.match(/\d/g)?.length ?? 0
  return digits >= (run.includes('/') ? 5 : 2) && isRandom(run)
}

/** As `judgeCall` knows keys: a few letters, and digits and letters at random. */
function isPrefixed(run: string): boolean {
  return /^[a-z]{2,6}[-_](?:\w*[-_])?(?=(?:[A-Za-z]*\d){3})[A-Za-z0-9]{8,}$/.test(run)
}
