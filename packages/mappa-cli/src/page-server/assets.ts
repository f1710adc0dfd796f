import { existsSync, readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { distribution } from '../distribution.ts'

/** A file of the page. */
export interface Asset {
  readonly type: string
  readonly content: Buffer
}

const TYPES: Readonly<Record<string, string>> = {
  html: 'text/html; charset=utf-8',
  js: 'text/javascript; charset=utf-8',
  css: 'text/css; charset=utf-8',
  svg: 'image/svg+xml',
}

/**
 * A file of the page by its path in the address. Only names that the build gives are looked for, so that no path leads elsewhere.
 *
 * @returns `null` for what is no file of it
 */
export function findAsset(path: string): Asset | null {
  const name = path === '/' ? 'index.html' : path.slice(1)
  if (!/^(?:assets\/)?[\w-]+\.(?:html|js|css|svg)$/.test(name)) return null
  const file = fileURLToPath(new URL(`web/${name}`, distribution()))
  if (!existsSync(file)) return null
  return { type: TYPES[name.split('.').at(-1)!]!, content: readFileSync(file) }
}
