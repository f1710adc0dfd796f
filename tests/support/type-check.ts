import { join } from 'node:path'
import { REPOSITORY, run } from './project.ts'

/**
 * What the compiler says of a project.
 *
 * @param root the directory with the `tsconfig.json`
 * @param version the package of the compiler: `typescript` for the last version that knows older ways of finding modules
 * @returns one line for each error; an empty text if there is none
 */
export function typeErrors(root: string, version: 'typescript-7' | 'typescript' = 'typescript-7'): string {
  const compiler = join(REPOSITORY, 'node_modules', version, 'bin/tsc')
  const words = ['-p', root, '--noEmit', '--pretty', 'false', '--typeRoots', join(REPOSITORY, 'node_modules/@types')]
  const { status, stdout, stderr } = run(process.execPath, [compiler, ...words], root)
  // A compiler that did not get so far as to look has found nothing either.
  if (status !== 0 && stdout === '') throw new Error(`The compiler ended with ${status}: ${stderr}`)
  return stdout
}
