/** A spelling of a value that is put somewhere, and the number that its files have in their names. */
export interface Spelled {
  readonly at: number
  readonly name: string
  readonly content: string | Uint8Array
}

/** A place of a page in which something stands. */
export interface Place {
  /** The files that have it. */
  readonly files: (spelled: Spelled) => Readonly<Record<string, string | Uint8Array>>
  /** The line of the page's code that leads to it. */
  readonly line: (spelled: Spelled) => string
  /** The address at which a development server has it. */
  readonly url: (spelled: Spelled) => string
  /** True for a place that holds only text of the simplest kind. */
  readonly isNarrow: boolean
}

/** What stands within a literal as it is. */
export const isSimple = ({ content }: Spelled): boolean =>
  typeof content === 'string' && /^[\w ,:%+/=?&.()-]*\n?$/.test(content) && !content.includes('//')

const text = ({ content }: Spelled) => String(content).trim()
const none = () => ''
/** Brotli has no sign of its own: only its name tells what it is. */
const toAsset = ({ at, name }: Spelled) => `k${at}-.${name.endsWith('.br') ? 'br' : 'bin'}`

export const PLACES: Readonly<Record<string, Place>> = {
  'public file': {
    files: (it) => ({ [`public/k${it.at}-${it.name}`]: it.content }),
    line: none,
    url: (it) => `/${encodeURI(`k${it.at}-${it.name}`)}`,
    isNarrow: false,
  },
  asset: {
    files: (it) => ({ [`src/${toAsset(it)}`]: it.content }),
    line: (it) => `console.log(new URL('./${toAsset(it)}', import.meta.url).href)`,
    url: (it) => `/src/${toAsset(it)}`,
    isNarrow: false,
  },
  'script that is loaded later': {
    files: (it) => ({ [`src/k${it.at}-.ts`]: `export const key = ${JSON.stringify(text(it))}\n` }),
    line: (it) => `import('./k${it.at}-.ts').then(({ key }) => console.log(key))`,
    url: (it) => `/src/k${it.at}-.ts`,
    isNarrow: true,
  },
  'source map': {
    files: (it) => ({
      [`src/k${it.at}-.ts`]: `// ${text(it)}\nexport const star = (n: number): number => n * ${it.at}\n`,
    }),
    line: (it) => `import('./k${it.at}-.ts').then(({ star }) => console.log(star(2)))`,
    url: (it) => `/src/k${it.at}-.ts`,
    isNarrow: true,
  },
  style: {
    files: (it) => ({ [`src/k${it.at}-.css`]: `.k${it.at}::after { content: "${text(it)}" }\n` }),
    line: (it) => `import('./k${it.at}-.css')`,
    url: (it) => `/src/k${it.at}-.css?direct`,
    isNarrow: true,
  },
  worker: {
    files: (it) => ({ [`src/k${it.at}-.ts`]: `postMessage(${JSON.stringify(text(it))})\n` }),
    line: (it) => `new Worker(new URL('./k${it.at}-.ts', import.meta.url), { type: 'module' })`,
    url: (it) => `/src/k${it.at}-.ts?worker_file&type=module`,
    isNarrow: true,
  },
  manifest: {
    files: (it) => ({ [`public/k${it.at}-.webmanifest`]: JSON.stringify({ name: text(it), icons: [] }) }),
    line: none,
    url: (it) => `/k${it.at}-.webmanifest`,
    isNarrow: true,
  },
}
