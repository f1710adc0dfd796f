import assert from 'node:assert/strict'
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, it } from 'node:test'
import {
  classifyEnvFile,
  type EnvFileKind,
  holdsValues,
  isEnvFile,
  isForAllStages,
  isLocalFile,
} from '@mappa/core/layers/env-file-name'
import { REPOSITORY } from '@mappa/tests/support/project'

const NAMES: Readonly<Record<EnvFileKind | 'none', readonly string[]>> = {
  values: [
    '.env',
    '.env.staging',
    '.env.eu-north-1',
    '.env.example.staging',
    '.ENV',
    '.Env.Production',
    '.env.localhost',
  ],
  local: ['.env.local', '.env.production.local', '.env.eu.north.local', '.env.example.local', '.ENV.Local'],
  example: ['.env.example', '.ENV.EXAMPLE'],
  copy: ['.env~', '.env.bak', '.env.production.old', '.env.production.local.bak', '.env.swp', '.env (1)', '.env copy'],
  similar: ['config.env', 'env.txt', 'production.env', 'env.ts', 'dome-env.d.ts', '.env-tools.ts', '_env', 'ENV'],
  none: [
    '.envrc',
    '.environment',
    'environment.ts',
    'envelope.txt',
    'settings.definition.ts',
    '.local',
    'dome.local',
    '',
  ],
}

const DIRECTORIES = ['', '../../', 'packages/dome.env/', '/srv/.env.local/', 'C:\\dome\\', '.env/']

describe('what an env file is', () => {
  for (const [kind, names] of Object.entries(NAMES))
    it(`knows the names that mean ${kind}, in every directory`, () => {
      for (const file of DIRECTORIES.flatMap((directory) => names.map((name) => directory + name))) {
        assert.equal(classifyEnvFile(file) ?? 'none', kind, file)
        assert.equal(holdsValues(file), ['values', 'local', 'copy'].includes(kind), file)
        assert.equal(isEnvFile(file), ['values', 'local', 'copy', 'example'].includes(kind), file)
        assert.equal(isLocalFile(file), kind === 'local', file)
      }
    })

  it('knows the layers that hold for all stages', () => {
    const layers = ['.env', '.env.local', '.env.<stage>', '.env.<stage>.local', '../../.env', 'store', 'environment']
    assert.deepEqual(layers.filter(isForAllStages), ['.env', '.env.local', '../../.env'])
  })

  it('is answered in one module', () => {
    const others = readdirSync(join(REPOSITORY, 'packages')).flatMap((name) => {
      const sources = join(REPOSITORY, 'packages', name, 'src')
      return readdirSync(sources, { recursive: true, encoding: 'utf8' })
        .filter((file) => /\.tsx?$/.test(file) && !file.endsWith('env-file-name.ts'))
        .filter((file) => {
          const code = readFileSync(join(sources, file), 'utf8').replace(/^\s*(?:\/\/|\/?\*).*$/gm, '')
          return /(?<![a-z\\])\\\.env[$(?\\)]|(?:starts|ends)With\('\.(?:env|local)/.test(code)
        })
    })
    assert.deepEqual(others, [])
  })
})
