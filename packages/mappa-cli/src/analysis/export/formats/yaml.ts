import type { Format } from '../format.ts'
import { quoteYaml, quoteYamlKey } from '../yaml-string.ts'

/** A mapping of YAML, with all values as strings. Parsers of YAML 1.1 and 1.2 read the same. */
export const yaml: Format = {
  name: 'yaml',
  summary: 'a mapping with all values as strings',
  refuse: () => null,
  write: (values) =>
    values.length === 0
      ? '{}\n'
      : values.map(({ name, text }) => `${quoteYamlKey(name)}: ${quoteYaml(text)}\n`).join(''),
}
