import { brotliCompressSync, deflateSync, gzipSync } from 'node:zlib'
import fc from 'fast-check'
import { zipSync } from 'fflate'

const units = (text: string) => [...text].map((each) => each.codePointAt(0)!)
const wrap = (text: string, width: number, end = '\n') => text.match(new RegExp(`.{1,${width}}`, 'g'))!.join(end)
const base64 = (text: string, before = '') => Buffer.from(`${before}${text} and more`).toString('base64')
const hex = (text: string) => Buffer.from(text).toString('hex')
const pairs = (text: string) => hex(text).match(/../g)!
const json = (text: string) => JSON.stringify(text).slice(1, -1)
const swap = (bytes: Buffer) => Buffer.from(bytes).swap16()
function utf32(text: string): Buffer {
  const bytes = Buffer.alloc(units(text).length * 4)
  for (const [at, unit] of units(text).entries()) bytes.writeUInt32LE(unit, at * 4)
  return bytes
}

/** Ways in which a value can stand in a file; `null` for a value that can't be written so. */
const SPELLINGS: Readonly<Record<string, (value: string) => string | Uint8Array | null>> = {
  plain: (it) => `key = ${it}\n`,
  'JSON.json': (it) => JSON.stringify({ key: it }),
  'JSON in JSON.json': (it) => JSON.stringify({ inner: JSON.stringify({ key: it }) }),
  'double quotes.js': (it) => `x = "${json(it)}"`,
  'single quotes.js': (it) => `x = '${json(it).replaceAll('\\"', '"').replaceAll("'", "\\'")}'`,
  'hexadecimal escapes.js': (it) =>
    units(it).every((each) => each < 256)
      ? `x = "${units(it)
          .map((each) => `\\x${each.toString(16).padStart(2, '0')}`)
          .join('')}"`
      : null,
  'Unicode escapes.js': (it) => `x = "${[...it].map((each) => `\\u{${each.codePointAt(0)!.toString(16)}}`).join('')}"`,
  'two pieces.js': (it) => `x = "${json(it.slice(0, 7))}" + "${json(it.slice(7))}"`,
  'pieces in a list.js': (it) => `x = ["${json(it.slice(0, 7))}", "${json(it.slice(7))}"].join('')`,
  'pieces in brackets.js': (it) =>
    `x = "${json(it.slice(0, 7))}" + ("${json(it.slice(7, 11))}" + ("${json(it.slice(11))}"))`,
  'pieces of lists.js': (it) => `x = [["${json(it.slice(0, 7))}"], ["${json(it.slice(7))}"]].flat().join('')`,
  'pieces of one text.js': (it) => {
    // What stands between the pieces must not be in the value, which would be another one then.
    const between = ['~~', '^^', '||', '@@', '§§'].find(([sign]) => !it.includes(sign!))!
    return `x = "${json(`${it.slice(0, 7)}${between}${it.slice(7)}`)}".split("${between}").join('')`
  },
  'a text over two lines.js': (it) => `x = "${json(it.slice(0, 7))}\\\r\n${json(it.slice(7))}"`,
  'octal escapes.js': (it) =>
    units(it).every((each) => each < 128)
      ? `x = '${units(it)
          .map((each) => `\\${each.toString(8).padStart(3, '0')}`)
          .join('')}'`
      : null,
  'character codes.js': (it) =>
    units(it).every((each) => each < 256) ? `String.fromCharCode(${units(it).join(', ')})` : null,
  'bytes on lines.js': (it) => `new Uint8Array([\n  ${[...Buffer.from(it)].join(',\n  ')}\n])`,
  'bytes in C.c': (it) =>
    `char k[] = { ${pairs(it)
      .map((each) => `0x${each}`)
      .join(', ')} };`,
  'references.xml': (it) =>
    `<k>${units(it)
      .map((each) => `&#${each};`)
      .join('')}</k>`,
  'entities.html': (it) => `<k>${it.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('"', '&quot;')}</k>`,
  percent: (it) => `?k=${encodeURIComponent(it)}&x=1`,
  'base64 at 0': (it) => base64(it),
  'base64 at 1': (it) => base64(it, 'a'),
  'base64 at 2': (it) => base64(it, 'ab'),
  'base64 of URLs': (it) => Buffer.from(it).toString('base64url'),
  'base64 in lines': (it) => wrap(base64(it, 'some more bytes before it, '.repeat(4)), 76),
  'base64 in short lines': (it) => wrap(base64(it, 'before '), 20),
  'base64 in a block.yaml': (it) => `data: |\n  ${wrap(base64(it, 'before '), 24, '\n  ')}\n`,
  'base64 in a comment.js': (it) => `// ${wrap(base64(it, 'before '), 32, '\n// ')}\n`,
  'base64 in joined texts.js': (it) => `x = "${wrap(base64(it, 'before '), 40, '" +\n  "')}"`,
  'base64 in lines of Windows': (it) => wrap(base64(it, 'before '), 64, '\r\n'),
  'base64 of UTF-16': (it) => Buffer.from(`key = '${it}'`, 'utf16le').toString('base64'),
  'base64 twice': (it) => Buffer.from(base64(it)).toString('base64'),
  'hexadecimal digits': hex,
  'HEXADECIMAL digits': (it) => hex(it).toUpperCase(),
  'pairs with colons': (it) => pairs(it).join(':'),
  'pairs with blanks': (it) => wrap(pairs(it).join(' '), 48),
  'hexadecimal digits in lines': (it) => wrap(hex(it), 32),
  'UTF-16': (it) => Buffer.from(`\ufeffkey = ${it}\n`, 'utf16le'),
  'UTF-16 of the other order': (it) => swap(Buffer.from(`key = ${it}\n`, 'utf16le')),
  'UTF-32': (it) => utf32(`key = ${it}\n`),
  'Latin-1': (it) => (units(it).every((each) => each < 256) ? Buffer.from(`key = ${it}`, 'latin1') : null),
  NFD: (it) => `key = ${it.normalize('NFD')}`,
  'k.gz': (it) => gzipSync(`key = ${it}`),
  'k.br': (it) => brotliCompressSync(`key = ${it}`),
  'k.zz': (it) => deflateSync(`key = ${it}`),
  'k.zip': (it) => zipSync({ 'deep/k.txt': Buffer.from(`key = ${it}`) }),
  'k.jar': (it) => zipSync({ 'k.txt.gz': gzipSync(`key = ${it}`) }),
  'a notebook.ipynb': (it) =>
    JSON.stringify({ cells: [{ cell_type: 'code', source: [`key = "${json(it)}"\n`], outputs: [] }] }),
  'a source map.js.map': (it) =>
    JSON.stringify({
      version: 3,
      names: [],
      sources: ['key.ts'],
      sourcesContent: [`export const key = "${json(it.slice(0, 7))}" + "${json(it.slice(7))}"`],
      mappings: 'AAAA,OAAO',
    }),
  'an address of a file.css': (it) => {
    const code = `x = "${json(it.slice(0, 7))}" + "${json(it.slice(7))}"`
    return `a { b: url("data:text/javascript;base64,${Buffer.from(code).toString('base64')}") }`
  },
  'indented lines.yaml': (it) => `k: |\n  ${it.replaceAll('\n', '\n  ')}\n`,
  'quoted lines.md': (it) => `> ${it.replaceAll('\n', '\n> ')}\n`,
  'lines of Windows': (it) => `k\r\n${it.replaceAll('\n', '\r\n')}\r\n`,
}

/** Values as keys and passwords are, of each alphabet. */
export const VALUES = fc.oneof(
  fc.stringMatching(/^[A-Za-z0-9]{20,40}$/),
  fc.stringMatching(/^[A-Za-z0-9+/]{27}=$/),
  fc.stringMatching(/^[a-z]{4}-[A-Z0-9]{6}-[!#%&*()~<>"'`$\\]{3}[a-z0-9]{6}$/),
  fc.stringMatching(/^[a-zäöüß]{6}-[A-ZÄÖÜ0-9]{8}-[a-z]{5}$/),
  fc.stringMatching(/^[A-Za-z0-9]{22}\n[A-Za-z0-9]{22}\n[A-Za-z0-9]{9}$/),
)

/** The files in which a value stands in each spelling that it can have, by their names. */
export function spell(value: string): readonly (readonly [name: string, content: string | Uint8Array])[] {
  return Object.entries(SPELLINGS).flatMap(([name, write]) => {
    const content = write(value)
    return content === null ? [] : [[name, content] as const]
  })
}
