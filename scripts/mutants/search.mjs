const SPELLINGS = 'packages/mappa-cli/tests/guard-spellings.test.ts'
const FOUND = 'finds a value however it is written'
const PAGES = 'packages/mappa-settings/tests/border/spellings.test.ts'

/** What is searched, and how, broken. */
export const SEARCH_MUTANTS = [
  {
    row: 'text',
    breaks: 'search: letters in one byte each are known',
    file: 'packages/core/src/values/encodings.ts',
    find: "add(', in Latin-1', composed)",
    replace: "add(', in Latin-1', value.normalize('NFD'))",
    test: SPELLINGS,
    name: FOUND,
  },
  {
    row: 'literals',
    breaks: 'search: references of HTML and XML are resolved',
    file: 'packages/search/src/decode/decodings.ts',
    find: 'if (REFERENCE.test(one)) yield',
    replace: 'if (REFERENCE.test(one) && one === "") yield',
    test: SPELLINGS,
    name: FOUND,
  },
  {
    row: 'hexadecimal digits',
    breaks: 'search: pairs with something between them are read',
    file: 'packages/search/src/decode/runs.ts',
    find: '(?:[\\s:.-]{0,80}[0-9a-fA-F]{2}){7,}/g',
    replace: '(?:[0-9a-fA-F]{2}){7,}/g',
    test: SPELLINGS,
    name: FOUND,
  },
  {
    row: 'parts',
    breaks: 'search: what is in data is looked for',
    file: 'packages/search/src/forms.ts',
    find: 'for (const each of items) walk(each, depth, add)',
    replace: '',
    test: 'packages/mappa-settings/tests/border/values.test.ts',
    name: 'the leak check knows a value as',
  },
  {
    row: 'notebooks, source maps',
    breaks: 'search: files in base64 within a page are opened',
    file: 'packages/search/src/decode/encoded-regions.ts',
    find: 'files.push(readDigits(text, end))',
    replace: 'files.push(readDigits(text, end).slice(0, 0))',
    test: PAGES,
    name: FOUND,
  },
  {
    row: 'encrypted archives',
    breaks: 'search: an encrypted archive is told',
    file: 'packages/search/src/decode/archives.ts',
    find: "skipped.push(...opened.encrypted.map((each) => ({ name: each, reason: 'encrypted' as const })))",
    replace: '',
    test: 'packages/mappa-cli/tests/guard-coverage.test.ts',
    name: 'encrypted',
  },
  {
    row: 'gzip, zlib, Brotli, zip',
    breaks: 'search: a build opens archives',
    file: 'packages/search/src/read/contents.ts',
    find: "for (const file of files) search(file, ', compressed', file.name)",
    replace: "for (const file of files.slice(0, 0)) search(file, ', compressed', file.name)",
    test: PAGES,
    name: FOUND,
  },
  {
    row: 'xz, bzip2, Zstandard',
    breaks: 'search: a build says what it did not understand',
    file: 'packages/mappa-settings/src/vite/leaks/output-search.ts',
    find: 'coverage.skipPart(file, each)',
    replace: 'coverage.skipPart(file, { ...each, reason: "no-file", type: "files" })',
    test: PAGES,
    name: 'says what it could not read',
  },
]
