import assert from 'node:assert/strict'
import { readdirSync, readFileSync } from 'node:fs'
import { join, posix, win32 } from 'node:path'
import { describe, it } from 'node:test'
import { isInside, leadsOutside, toRelativePath, toShownPath } from '@mappa/node/fs/places'
import { REPOSITORY } from '@mappa/tests/support/project'

/** Names that look like something else. */
const NAMES = ['dome', '..x', '...', '.env', 'a b', '-', 'C', 'ü', '..x..']

/** Every path of up to three such names. */
const PATHS = NAMES.flatMap((one) => [
  [one],
  ...NAMES.flatMap((two) => [
    [one, two],
    [one, two, 'night.ts'],
  ]),
])

const SYSTEMS = {
  posix: { paths: posix, root: '/srv/..desk', elsewhere: ['/srv', '/', '/srv/desk', '/srv/..desk2'] },
  win32: {
    paths: win32,
    root: 'C:\\srv\\..desk',
    elsewhere: ['C:\\srv', 'C:\\', 'D:\\srv\\..desk', '\\\\host\\share'],
  },
}

describe('where a file is', () => {
  for (const [system, { paths, root, elsewhere }] of Object.entries(SYSTEMS)) {
    it(`is below a directory, whatever names are like, on ${system}`, () => {
      for (const names of PATHS) {
        const file = paths.join(root, ...names)
        assert.ok(isInside(file, root, paths), file)
        assert.equal(toRelativePath(root, file, paths), names.join('/'))
        assert.equal(toShownPath(root, file, paths), names.join('/'))
        assert.ok(!leadsOutside(names.join('/'), paths), file)
        assert.ok(!leadsOutside(names.join(paths.sep), paths), file)
      }
    })

    it(`is outside of it, on ${system}`, () => {
      for (const directory of elsewhere)
        for (const names of [[], ...PATHS]) {
          const file = paths.join(directory, ...names)
          assert.ok(!isInside(file, root, paths), file)
          assert.ok(leadsOutside(toRelativePath(root, file, paths), paths), file)
          assert.equal(toShownPath(root, file, paths), file)
        }
      for (const file of ['..', '../x', '../..x', paths.join('..', 'x')]) assert.ok(leadsOutside(file, paths), file)
    })
  }

  it('keeps a backslash that is part of a name', () => {
    assert.equal(toRelativePath('/srv', '/srv/a\\b/night.ts', posix), 'a\\b/night.ts')
    assert.ok(!leadsOutside('..\\x', posix))
    assert.ok(leadsOutside('..\\x', win32))
  })

  it('is answered in one module', () => {
    const others = readdirSync(join(REPOSITORY, 'packages')).flatMap((name) => {
      const sources = join(REPOSITORY, 'packages', name, 'src')
      return readdirSync(sources, { recursive: true, encoding: 'utf8' })
        .filter((file) => /\.tsx?$/.test(file) && !file.endsWith('fs/places.ts'))
        .filter((file) =>
          /startsWith\(['"`]\.\.['"`/]|relative\([^\n]*\)\.(?:replaceAll\('\\\\'|split\(path\.sep)/.test(
            readFileSync(join(sources, file), 'utf8'),
          ),
        )
    })
    assert.deepEqual(others, [])
  })
})
