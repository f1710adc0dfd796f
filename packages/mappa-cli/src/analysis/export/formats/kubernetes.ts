import { type ExportedValue, type Format, refuseNul } from '../format.ts'
import { quoteYaml, quoteYamlKey } from '../yaml-string.ts'

/** A ConfigMap with what is no secret, and a Secret with the rest, if there is any. */
export const kubernetes: Format = {
  name: 'kubernetes',
  summary: 'a ConfigMap, and a Secret for secrets',
  refuse: refuseNul,
  write(values, options) {
    const secrets = values.filter(({ secret }) => secret)
    const plain = values.filter(({ secret }) => !secret)
    const documents = [writeResource('ConfigMap', options.configMap, 'data', plain)]
    if (secrets.length > 0) documents.push(writeResource('Secret', options.secret, 'stringData', secrets))
    return documents.join('---\n')
  },
}

function writeResource(kind: string, name: string, member: string, values: readonly ExportedValue[]): string {
  const type = kind === 'Secret' ? 'type: Opaque\n' : ''
  const data = values.map((each) => `  ${quoteYamlKey(each.name)}: ${quoteYaml(each.text)}\n`).join('')
  const body = data === '' ? `${member}: {}\n` : `${member}:\n${data}`
  return `apiVersion: v1\nkind: ${kind}\nmetadata:\n  name: ${quoteYaml(name)}\n${type}${body}`
}
