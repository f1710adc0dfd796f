import { csharp } from './csharp/index.ts'
import { dart } from './dart.ts'
import { data } from './data.ts'
import { dockerfile } from './docker/index.ts'
import { go } from './go/index.ts'
import { java } from './java/index.ts'
import { javascript } from './javascript/index.ts'
import { json } from './json.ts'
import { kotlin } from './kotlin/index.ts'
import type { Language } from './language.ts'
import { makefile } from './make/index.ts'
import { notebook } from './notebook/index.ts'
import { php } from './php/index.ts'
import { python } from './python/index.ts'
import { ruby } from './ruby/index.ts'
import { rust } from './rust/index.ts'
import { scriptParts } from './script-parts.ts'
import { shell } from './shell/index.ts'
import { swift } from './swift.ts'
import { terraform } from './terraform/index.ts'
import { xml } from './xml.ts'
import { yaml } from './yaml/index.ts'

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
  kotlin,
  rust,
  csharp,
  swift,
  dart,
  makefile,
  terraform,
  xml,
  json,
  data,
]

/** The language of a file by its path; `null` for one that is not read. */
export function getLanguage(file: string): Language | null {
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
export function detectScriptLanguage(text: string): Language | null {
  const [line = ''] = text.split('\n', 1)
  if (!line.startsWith('#!')) return null
  return INTERPRETERS.find(([program]) => program.test(line))?.[1] ?? null
}
