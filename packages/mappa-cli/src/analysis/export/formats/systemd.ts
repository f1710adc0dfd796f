import { type ExportedValue, type Format, refuseNul } from '../format.ts'

/** What systemd refuses in a value: control characters but tabs and line feeds. */
const CONTROL = /[\x01-\x08\x0b-\x1f\x7f]/

/** The file of `EnvironmentFile=` in a unit of systemd. */
export const systemd: Format = {
  name: 'systemd',
  summary: 'the file of EnvironmentFile= in a unit',
  refuse: (value) => refuseNul(value) ?? refuseControl(value),
  // Every version takes these escapes within double quotes, and leaves all else as it is.
  write: (values) => values.map(({ name, text }) => `${name}="${text.replace(/["\\$`]/g, '\\$&')}"\n`).join(''),
}

function refuseControl({ text }: ExportedValue): string | null {
  return CONTROL.test(text) ? 'it has a control character' : null
}
