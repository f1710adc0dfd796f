import type { Format } from '../format.ts'

/** One file for each variable, which holds its value and nothing else. */
export const directory: Format = {
  name: 'directory',
  summary: 'one file for each variable; needs --out',
  refuse: () => null,
  write: (values) => new Map(values.map(({ name, text }) => [name, text])),
}
