import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { type Project, run } from './project.ts'

/** The manifest of a program of ES modules. */
export const ESM = '{ "type": "module", "dependencies": { "mappa-settings": "*" } }'
/** The configuration of a compiler that lets any program run as it is. */
export const TYPED = JSON.stringify({
  compilerOptions: {
    strict: true,
    noEmit: true,
    target: 'es2022',
    // Without the types of browsers, which take long to read.
    lib: ['es2022'],
    module: 'preserve',
    moduleResolution: 'bundler',
    allowImportingTsExtensions: true,
    experimentalDecorators: true,
    skipLibCheck: true,
    types: ['node'],
    paths: { '@/*': ['./src/*'] },
  },
  include: ['src', 'settings.definition.ts'],
})

/** Every file that git does not ignore. */
export function taken({ root }: Project): string {
  const files = run('git', ['ls-files', '-z', '--cached', '--others', '--exclude-standard'], root).stdout.split('\0')
  return files
    .filter(
      (file) => file !== '' && !file.startsWith('node_modules') && !/^(tests|sw|form|edge|pack)|\.test\./.test(file),
    )
    .map((file) => readFileSync(join(root, file), 'utf8'))
    .join('\n')
}
