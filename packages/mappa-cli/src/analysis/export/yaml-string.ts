const ESCAPES: Readonly<Record<string, string>> = { '"': '\\"', '\\': '\\\\', '\n': '\\n', '\r': '\\r', '\t': '\\t' }

/** What may not stand as it is in a double-quoted string of YAML 1.1 or 1.2, or is a line break for one of them. */
const UNPRINTABLE = /["\\\x00-\x1f\x7f-\x9f\u00ad\u2028\u2029\ufeff\ufffe\uffff]/g

/**
 * A text as a double-quoted string of YAML, the same for YAML 1.1 and 1.2.
 *
 * @param text any text without half characters
 * @example
 * ```ts
 * quoteYaml('fog: until\nnoon') // '"fog: until\\nnoon"'
 * ```
 */
export function quoteYaml(text: string): string {
  return `"${escapeYaml(text)}"`
}

/** The same without the quotes around it. */
export function escapeYaml(text: string): string {
  return text.replace(UNPRINTABLE, (each) => ESCAPES[each] ?? `\\u${each.charCodeAt(0).toString(16).padStart(4, '0')}`)
}

/** The name of a variable as a key of YAML. YAML 1.1 reads some words as booleans or as nothing. */
export function quoteYamlKey(name: string): string {
  return /^(?:y|n|yes|no|on|off|true|false|null)$/i.test(name) ? quoteYaml(name) : name
}
