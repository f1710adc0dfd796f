import type { Maker } from '../setting.ts'
import { failure } from './failure.ts'
import { kind } from './kind.ts'

/** Options of keys and certificates. */
export interface PemOptions {
  /** The label that is asked for, such as `PRIVATE KEY`, or several that will do. */
  readonly label?: string | readonly string[]
}

const labels = (label: unknown): readonly string[] =>
  typeof label === 'string' ? [label] : (label as readonly string[])
const isLabel = (value: unknown) => typeof value === 'string' && /^[A-Z0-9]+(?: [A-Z0-9]+)*$/.test(value)

/**
 * Keys and certificates in the text form of RFC 7468, one or several behind each other. They may be written in real lines or
 * with `\n` between them, and arrive in real lines, each with a line end.
 */
export const pem = /* @__PURE__ */ kind<string, Maker<string, PemOptions>>({
  name: 'pem',
  says: ({ label }) => (label === undefined ? 'PEM text' : `PEM text: ${labels(label).join(' or ')}`),
  constraints: [],
  options: {
    label: {
      needed: "a label, such as 'PRIVATE KEY', or a list of them",
      accepts: (value) => isLabel(value) || (Array.isArray(value) && value.length > 0 && value.every(isLabel)),
    },
  },
  accepts: (value) => typeof value === 'string' && 'value' in read(value, undefined),
  convert: (text, { label }) => read(text, label),
  toText: (value) => value,
  schema: { type: 'string' },
})

function read(text: string, label: unknown) {
  const lines = text
    .replace(/\\r\\n|\\n|\r\n/g, '\n')
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line !== '')
  let open: string | null = null
  let digits = 0
  let count = 0
  for (const line of lines) {
    const [, edge, name = ''] = /^-----(BEGIN|END) ([A-Z0-9 ]+)-----$/.exec(line) ?? []
    if (edge === undefined) {
      // Headers stand before the digits in older forms (RFC 1421).
      if (open === null) return failure('pem-not-begun', {})
      if (!/^[A-Za-z0-9+/]+={0,2}$/.test(line) && !/^[\w-]+: /.test(line)) return failure('pem-broken', {})
      digits += line.length
    } else if (edge === 'BEGIN') {
      if (open !== null) return failure('pem-not-ended', { label: open })
      if (label !== undefined && !labels(label).includes(name)) {
        return failure('pem-label-wrong', { needed: labels(label), found: name })
      }
      open = name
      digits = 0
    } else {
      if (open !== name) return failure('pem-not-ended', { label: open ?? name })
      if (digits === 0) return failure('pem-broken', {})
      open = null
      count++
    }
  }
  if (open !== null) return failure('pem-not-ended', { label: open })
  return count === 0 ? failure('pem-not-begun', {}) : { value: `${lines.join('\n')}\n` }
}
