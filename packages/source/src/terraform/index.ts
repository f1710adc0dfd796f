import type { Language } from '../language.ts'
import { readByLines } from '../lines/lines.ts'
import type { Source } from '../source.ts'
import { terraformRewriting } from './rewriting.ts'

const lines = readByLines({
  name: 'Terraform',
  files: /\.(?:tf|tfvars|hcl)$/,
  comment: /(?:^|\s)(?:#|\/\/)/,
  isBare: true,
  reads: [],
})

/** The block that a line begins, by its kind and its last label: `variable "db_password" {`. */
const BLOCK = /^\s*([a-z_]+)(?:\s+"[^"]*")*\s+"([^"]+)"\s*\{/

/** Terraform and HCL. A default is called what its variable is called. */
export const terraform: Language = {
  ...lines,
  read: readTerraform,
  rewriting: terraformRewriting((text, file) => readTerraform(text, file).literals),
}

function readTerraform(text: string, file: string): Source {
  const source = lines.read(text, file)!
  const blocks = listBlocks(text)
  const isCode = /\.tf$/.test(file)
  const literals = source.literals.map((each) => {
    const block = blocks[each.line - 1]
    const own = each.names.at(-1)
    if (block === undefined || own === undefined) return each
    const isDefault = block.kind === 'variable' && own === 'default'
    const name = isDefault ? block.label : `${block.label}_${own}`
    const variable = isCode ? `TF_VAR_${name.replace(/\W/g, '_')}` : null
    return { ...each, names: isDefault ? [name] : each.names, variable }
  })
  return { ...source, literals }
}

interface Block {
  readonly kind: string
  readonly label: string
}

/** For each line, the block that was begun last. */
function listBlocks(text: string): readonly (Block | undefined)[] {
  let block: Block | undefined
  return text.split('\n').map((line) => {
    const [, kind, label] = BLOCK.exec(line) ?? []
    if (label !== undefined) block = { kind: kind!, label }
    else if (/^\}/.test(line)) block = undefined
    return block
  })
}
