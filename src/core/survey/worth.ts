const NAMES = 'pass|pwd|secret|credential|key|token|auth|bearer|salt|cookie|jwt|licen[cs]e|signature|pin'
const ADDRESSES =
  'url|uri|endpoint|host|origin|addr|server|gateway|upstream|backend|broker|domain|base|dsn|connection|database|db'
/** What stands between a name and the value it is given. */
const GIVEN = `\\w*["'\\]]?\\s*(?:[:=,(]|\\|\\||\\?\\?|[!=]==?)\\s*`

/**
 * What a file must hold for a value in it to be judged a setting, or for a read to be found in it. Kept wider than the
 * judgement: it only saves parsing what can hold neither.
 */
const WORTH: readonly RegExp[] = [
  /process\s*\??\.\s*env|import\.meta\s*\??\.\s*env|PRIVATE KEY-/,
  /(?:postgres(?:ql)?|mysql|mariadb|mongodb(?:\+srv)?|rediss?|amqps?|mqtts?|nats|kafka|ldaps?|smtps?|s?ftp|sqlserver):\/\/|:\/\/[^\s/"'`@]*:[^\s"'`@]+@/,
  /["'`](?:(?:https?|wss?|tcp):\/\/)?(?:localhost|127\.|0\.0\.0\.0|10\.\d|192\.168\.|172\.)/,
  new RegExp(`(?:${ADDRESSES})${GIVEN}["'\`](?:(?:https?|wss?):|[\\w-]+\\.[\\w-]+)`, 'i'),
  /\b(?:fetch|connect|request|get|post|put|patch|delete|axios|WebSocket|EventSource)\s*\(\s*["'`](?:https?|wss?):/,
  /port\w*["'\]]?\s*(?:[:=,(]|\|\||\?\?)\s*["']?\d|(?:listen|serve|bind)\s*\([^)\n]*\d/i,
  new RegExp(`(?:${NAMES})${GIVEN}(?:[\\w.]+\\(\\s*)?["'\`](?=[^"'\`\\n]*[^A-Za-z"'\`\\n])[^"'\`\\n]{6}`, 'i'),
  /["'`](?=[^"'`\n]*\d)[\w+/=.~-]{18,}["'`]/,
  /[?&]\w*(?:key|token|secret|appid|auth|sig)\w*=/i,
]

/** True for a text that may hold what a survey looks for. */
export function isWorthParsing(text: string): boolean {
  return WORTH.some((pattern) => pattern.test(text))
}
