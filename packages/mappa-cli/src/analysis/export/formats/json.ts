import type { Format } from '../format.ts'

/** One JSON object (RFC 8259), with all values as strings. */
export const json: Format = {
  name: 'json',
  summary: 'an object with all values as strings',
  refuse: () => null,
  write: (values) => `${JSON.stringify(Object.fromEntries(values.map(({ name, text }) => [name, text])), null, 2)}\n`,
}
