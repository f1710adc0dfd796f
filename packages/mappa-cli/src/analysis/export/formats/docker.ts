import { type ExportedValue, type Format, refuseNul } from '../format.ts'

/** The longest line that is read, in bytes. */
const LONGEST_LINE = 65_000

/** The file of `docker run --env-file`: lines of `NAME=value`, in which quotes are part of the value. */
export const docker: Format = {
  name: 'docker',
  summary: 'the file of docker run --env-file, which knows no quotes',
  refuse: (value) => refuseNul(value) ?? refuseLine(value),
  write: (values) => values.map(({ name, text }) => `${name}=${text}\n`).join(''),
}

function refuseLine({ name, text }: ExportedValue): string | null {
  if (/[\r\n]/.test(text)) return 'it has several lines'
  if (Buffer.byteLength(text) + name.length > LONGEST_LINE) return `it is longer than ${LONGEST_LINE} bytes`
  return null
}
