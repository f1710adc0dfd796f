import type { Language } from '../language.ts'
import { readJavaScript } from './literals.ts'
import { javascriptRewriting } from './rewriting.ts'

/** JavaScript and TypeScript, with or without JSX. */
export const javascript: Language = {
  name: 'JavaScript and TypeScript',
  readsByPath: true,
  files: /\.([cm]?[jt]sx?)$/,
  isPrefiltered: true,
  mayBeMinified: true,
  read: readJavaScript,
  rewriting: javascriptRewriting,
}
