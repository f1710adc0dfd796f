import type { Language } from './language.ts'
import { readByLines } from './lines/lines.ts'

const lines = readByLines({
  name: 'Terraform',
  files: /\.(?:tf|tfvars|hcl)$/,
  comment: /(?:^|\s)(?:#|\/\/)/,
  reads: [],
})

/** The block that a line begins, by its last label: `variable "db_password" {`. */
const BLOCK = /^\s*[a-z_]+(?:\s+"[^"]*")*\s+"([^"]+)"\s*\{/

/** Terraform and HCL. A default is called what its variable is called. */
export const terraform: Language = {
  ...lines,
  read(text, file) {
    const source = lines.read(text, file)
    if (source === null) return null
    const labels = labelsOf(text)
    const literals = source.literals.map((each) => {
      const label = labels[each.line - 1]
      return each.names.at(-1) === 'default' && label ? { ...each, names: [label] } : each
    })
    return { ...source, literals }
  },
}

/** For each line, the label of the block that was begun last. */
function labelsOf(text: string): readonly (string | undefined)[] {
  let label: string | undefined
  return text.split('\n').map((line) => {
    label = BLOCK.exec(line)?.[1] ?? label
    return label
  })
}
