import type { LineValue } from './lines.ts'

/** What stands behind an option of a command, in quotes or not, as the last group. */
const WORD = `\\s*=?(['"]?)([^\\s'"$|;&]{4,})\\1`

/** Options of programs that take a password, a key or a machine, with what their value is called. */
const OPTIONS: readonly (readonly [pattern: RegExp, name: string])[] = [
  [/\bcurl\b[^|;]*?\s(?:-u|--user)[\s=]*(['"]?)([^\s'"$|;&:]+:[^\s'"$|;&]+)\1/g, 'credentials'],
  [
    new RegExp(`\\b(?:mysql\\w*|mariadb\\w*|sshpass|docker\\s+login|podman\\s+login)\\s[^|;]*?(?<=\\s)-p${WORD}`, 'g'),
    'password',
  ],
  [new RegExp(`\\bredis-cli\\s[^|;]*?(?<=\\s)-a${WORD}`, 'g'), 'password'],
  [/\b(?:docker|podman)\s+login\b[^|;]*?\s()([\w-]+(?:\.[\w-]+)+(?::\d+)?)(?=\s|$)/g, 'registry_host'],
  [
    /\b(?:psql|pg_\w+|mysql\w*|mariadb\w*|redis-cli|mongo\w*)\s[^|;]*?(?<=\s)(?:-h|--host)[\s=]*(['"]?)([\w-]+(?:\.[\w-]+)+)\1/g,
    'host',
  ],
]
/** The header of a request that has a key in it: `-H "X-Api-Key: ..."`. */
const HEADER = /(?<=\s)(?:-H|--header)[\s=]*["']?(X-[\w-]*(?:token|key|auth|secret)[\w-]*)\s*:\s*([^\s'"$]{6,})/gi
/** A secret that a cluster is told: `--from-literal=api-key=...`. */
const LITERAL = /(?<=\s)--from-literal[\s=]+["']?([\w.-]+)=([^\s'"$]{4,})/g

/** `--api-token value` and `--password=value`, whatever the program is. */
const NAMED = /(?<=\s)--([a-z][a-z-]*)(?:=|\s+)(['"]?)([^\s'"$|;&]{4,})\2/g
const TELLING = /(?:^|-)(?:password|passwd|pass|token|secret|key|credential|user-pass)$/

/** The values that commands get by their options: `psql -h db.fernhollow.example`, `curl -u name:password`. */
export function* findCommandValues(line: string): Generator<LineValue> {
  if (!/\s-/.test(line)) return
  for (const [pattern, name] of OPTIONS)
    for (const { 0: whole, 1: quote, 2: value, index } of line.matchAll(pattern))
      yield toLineValue(index + whole.length - quote!.length - value!.length, value!, quote!, name)
  for (const { 0: whole, 1: name, 2: value, index } of [...line.matchAll(HEADER), ...line.matchAll(LITERAL)])
    yield toLineValue(index + whole.length - value!.length, value!, '', name!)
  for (const { 0: whole, 1: option, 2: quote, 3: value, index } of line.matchAll(NAMED))
    if (TELLING.test(option!))
      yield toLineValue(index + whole.length - quote!.length - value!.length, value!, quote!, option!)
}

function toLineValue(at: number, value: string, quote: string, name: string): LineValue {
  return {
    at: at - quote.length,
    length: value.length + 2 * quote.length,
    value,
    names: [name.replaceAll('-', '_')],
    callee: null,
    form: 'text',
  }
}
