import type { Declaration, Definition } from '../definition/definition.ts'
import { escapeInvisible } from '../text/escape-invisible.ts'

/**
 * Types of the environment, so that `process.env.DOME_KEY` and `import.meta.env.NIGHT_PLACES` complete in an editor. With the
 * compiler option `noPropertyAccessFromIndexSignature`, a name that the definition lacks is an error.
 *
 * Values are texts there, whatever their kind; those that have few forms are unions of them. The same definition always gives
 * the same text.
 *
 * @returns the text of a file of declarations
 */
export function typesFile({ settings }: Definition): string {
  const shared = settings.filter((each) => each.readAt === 'build')
  return `// Types of the variables that this project reads. Made by mappa write types from the definition: change that, not this.

declare namespace NodeJS {
  interface ProcessEnv {
${settings.map(member).join('\n')}
  }
}
${shared.length === 0 ? '' : `\ninterface ImportMetaEnv {\n${shared.map((each) => member(each).replace(/^ {4}/gm, '  ')).join('\n')}\n}\n`}`
}

function member({ name, description, kind, options, optional }: Declaration): string {
  const lines = [inComment(description)]
  const old = options.deprecated
  if (old === true || typeof old === 'string') lines.push(`@deprecated${old === true ? '' : ` ${inComment(old)}`}`)
  const type = kind.values?.(options).map(literal).join(' | ') ?? 'string'
  const comment =
    lines.length === 1 ? `/** ${lines[0]} */` : `/**\n${lines.map((line) => `     * ${line}`).join('\n')}\n     */`
  return `    ${comment}\n    readonly ${name}${optional ? '?' : ''}: ${type}`
}

/** A text that can't end the comment it stands in, on one line. */
function inComment(text: string): string {
  return escapeInvisible(text.replace(/\s+/g, ' ')).replaceAll('*/', '*\\/')
}

function literal(text: string): string {
  const escaped = text.replace(/[\\']/g, '\\$&').replaceAll('\n', '\\n').replaceAll('\r', '\\r')
  return `'${escaped.replaceAll('\u2028', '\\u2028').replaceAll('\u2029', '\\u2029')}'`
}
