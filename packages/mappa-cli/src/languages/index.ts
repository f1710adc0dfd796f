import { csharp } from './csharp.ts'
import { data } from './data.ts'
import { dockerfile } from './dockerfile.ts'
import { go } from './go.ts'
import { java } from './java.ts'
import { javascript } from './javascript/index.ts'
import type { Language } from './language.ts'
import { makefile } from './makefile.ts'
import { notebook } from './notebook.ts'
import { php } from './php.ts'
import { python } from './python.ts'
import { ruby } from './ruby.ts'
import { rust } from './rust.ts'
import { scriptParts } from './script-parts.ts'
import { shell } from './shell.ts'
import { terraform } from './terraform.ts'
import { xml } from './xml.ts'
import { yaml } from './yaml.ts'

/** Every language that is read. */
const LANGUAGES: readonly Language[] = [
  javascript,
  scriptParts,
  python,
  notebook,
  go,
  php,
  ruby,
  shell,
  yaml,
  dockerfile,
  java,
  rust,
  csharp,
  makefile,
  terraform,
  xml,
  data,
]

/** The language of a file by its path; `null` for one that is not read. */
export function languageOf(file: string): Language | null {
  return LANGUAGES.find(({ files }) => files.test(file)) ?? null
}

/** What the first line of a script names, and the language that is. */
const INTERPRETERS: readonly (readonly [program: RegExp, language: Language])[] = [
  [/\b(?:ba|da|z|k|a)?sh\b/, shell],
  [/\bpython[\d.]*\b/, python],
  [/\b(?:node|tsx|deno|bun)\b/, javascript],
  [/\bruby\b/, ruby],
  [/\bphp\b/, php],
]

/** The language of a script by its first line (`#!`); `null` if it has none, or one that is not read. */
export function languageOfScript(text: string): Language | null {
  const [line = ''] = text.split('\n', 1)
  if (!line.startsWith('#!')) return null
  return INTERPRETERS.find(([program]) => program.test(line))?.[1] ?? null
}
