import assert from 'node:assert/strict'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, it } from 'node:test'
import { needs } from '@mappa/tests/support/programs'
import { COMMAND, makeProject, run } from '@mappa/tests/support/project'

const LIVE = 'https://sky.fernhollow.example'
const NEAR = 'http://localhost:4100'
const BOTH = { development: NEAR, staging: NEAR, production: LIVE }

type Case = readonly [file: string, before: string, after: string, values?: Readonly<Record<string, string>>]

/** `LIVE` and `NEAR` stand for addresses; without values, all stages but production have the near one. */
const moves: Readonly<Record<string, Case>> = {
  'a comparison in JavaScript': [
    'a.js',
    "export const skyUrl = process.env.NODE_ENV === 'production' ? 'LIVE' : 'NEAR'\n",
    'export const skyUrl = process.env.SKY_URL\n',
  ],
  'the other way round': [
    'a.js',
    "export const skyUrl = 'production' !== stage ? 'NEAR' : 'LIVE';\n",
    'export const skyUrl = process.env.SKY_URL;\n',
  ],
  'a flag that is negated, in an argument': [
    'a.js',
    "fetch((!isDev) ? 'LIVE' : 'NEAR', { method: 'POST' })\n",
    "fetch(process.env.SKY_URL, { method: 'POST' })\n",
    { development: NEAR, staging: LIVE, production: LIVE },
  ],
  'three stages over several lines': [
    'a.ts',
    "export const skyUrl = isProd\n  ? 'LIVE'\n  : env.stage === 'staging'\n    ? 'https://trial.fernhollow.example'\n    : 'NEAR'\n",
    'export const skyUrl = process.env.SKY_URL!\n',
    { ...BOTH, staging: 'https://trial.fernhollow.example' },
  ],
  'in the place of a variable that is missing': [
    'a.js',
    "export const skyUrl = process.env.SKY_URL || (isProd ? 'LIVE' : 'NEAR')\n",
    'export const skyUrl = process.env.SKY_URL\n',
  ],
  'in a template': [
    'a.js',
    "export const skyUrl = `${isProd ? 'LIVE' : 'NEAR'}/plates`\n",
    'export const skyUrl = `${process.env.SKY_URL}/plates`\n',
  ],
  ports: [
    'a.js',
    'server.listen(isProd ? 443 : 4100)\n',
    'server.listen(Number(process.env.SERVER_PORT))\n',
    {
      development: '4100',
      staging: '4100',
      production: '443',
    },
  ],
  Python: [
    'a.py',
    'import os\n\nSKY_URL = "LIVE" if os.environ.get("STAGE", "development") == "production" else "NEAR"\n',
    'import os\n\nSKY_URL = os.environ["SKY_URL"]\n',
  ],
  'three stages of Python': [
    'a.py',
    'import os\nSKY_URL = "LIVE" if stage == "production" else "https://trial.fernhollow.example" if stage == "staging" else "NEAR"\n',
    'import os\nSKY_URL = os.environ["SKY_URL"]\n',
    { ...BOTH, staging: 'https://trial.fernhollow.example' },
  ],
  PHP: [
    'a.php',
    "<?php\n$config = ['sky_url' => $this->isProduction() ? 'LIVE' : 'NEAR'];\n",
    "<?php\n$config = ['sky_url' => getenv('SKY_URL')];\n",
  ],
  Ruby: ['a.rb', 'SKY_URL = Rails.env.production? ? "LIVE" : "NEAR"\n', 'SKY_URL = ENV.fetch("SKY_URL")\n'],
  Java: [
    'A.java',
    'class A { static final String SKY_URL = "production".equals(stage) ? "LIVE" : "NEAR"; }\n',
    'class A { static final String SKY_URL = System.getenv("SKY_URL"); }\n',
  ],
  Kotlin: ['a.kt', 'val skyUrl = if (isProd) "LIVE" else "NEAR"\n', 'val skyUrl = System.getenv("SKY_URL")\n'],
  'C#': [
    'A.cs',
    'class A { string SkyUrl = env.IsProduction() ? "LIVE" : "NEAR"; }\n',
    'class A { string SkyUrl = System.Environment.GetEnvironmentVariable("SKY_URL"); }\n',
  ],
}

/** Conditionals that are none of stages, or not as a whole: their values are findings of their own. */
const apart: Readonly<Record<string, readonly [file: string, code: string]>> = {
  'another question': ['a.js', "export const skyUrl = count > 3 ? 'LIVE' : 'NEAR'\n"],
  'two questions': ['a.js', "export const skyUrl = isProd && count ? 'LIVE' : 'NEAR'\n"],
  'two questions on two lines': ['a.js', "export const skyUrl = count &&\n  isProd ? 'LIVE' : 'NEAR'\n"],
  'a stage that the project does not have': ['a.js', "export const skyUrl = env === 'moon' ? 'LIVE' : 'NEAR'\n"],
  'a value that goes on': ['a.js', "export const skyUrl = isProd ? 'LIVE' : 'NEAR' + night\n"],
  'a value that goes on in the next line': ['a.js', "export const skyUrl = isProd ? 'LIVE' : 'NEAR'\n  + night\n"],
  'a value before the conditional of Python': ['a.py', 'sky_url = night + "LIVE" if is_prod else "NEAR"\n'],
  'one of its values has a comment that keeps it': [
    'a.js',
    "export const skyUrl = isProd\n  // mappa-ignore: the same for all\n  ? 'LIVE'\n  : 'NEAR'\n",
  ],
}

const filled = (code: string) => code.replaceAll('LIVE', LIVE).replaceAll('NEAR', NEAR)

describe('a conditional that chooses by the stage', () => {
  for (const [name, [file, before, after, values = BOTH]] of Object.entries(moves)) {
    it(`becomes one setting: ${name}`, (context) => {
      const project = makeProject(context, { [file]: filled(before) })
      const moved = project.mappa(['move', '--all', '--yes', '--read', 'environment', '--json'])
      const { moved: settings, lacking } = JSON.parse(moved.stdout) as {
        moved: { name: string; files: { stage: string; file: string }[] }[]
        lacking: unknown[]
      }
      assert.equal(settings.length, 1, moved.stdout + moved.stderr)
      assert.deepEqual(lacking, [])
      assert.equal(readFileSync(join(project.root, file), 'utf8'), after)
      const written = settings[0]!.files.map(({ stage, file: layer }) => {
        const text = readFileSync(join(project.root, layer), 'utf8')
        return [stage, text.trim().replace(/^\w+=/, '')]
      })
      assert.deepEqual(Object.fromEntries(written), values)
    })
  }

  for (const [name, [file, code]] of Object.entries(apart)) {
    it(`stays as it is: ${name}`, (context) => {
      const project = makeProject(context, { [file]: filled(code) })
      const { findings } = JSON.parse(project.mappa(['survey', '--json']).stdout) as { findings: { masked: string }[] }
      assert.ok(findings.length > 0)
      for (const { masked } of findings) assert.doesNotMatch(masked, / in /)
    })
  }

  it('is no fallback of a variable by one half alone, and a variable with two fallbacks stays', (context) => {
    const project = makeProject(context, {
      'a.js': filled("export const skyUrl = process.env.SKY || (count > 3 ? 'LIVE' : 'NEAR')\n"),
      'b.rb': filled("dome_url = ENV.fetch('STAGE') == 'night' ? 'LIVE' : 'NEAR'\n"),
      'c.js': 'app.listen(process.env.PORT || 4100)\nadmin.listen(process.env.PORT || 4200)\n',
    })
    const { stdout } = project.mappa(['move', '--all', '--yes', '--read', 'environment', '--json'])
    const { moved, left } = JSON.parse(stdout) as {
      moved: { name: string }[]
      left: { file: string; why: string }[]
    }
    // Setting one of these variables would decide what the program does.
    for (const { name } of moved) assert.ok(!['SKY', 'STAGE', 'PORT'].includes(name), name)
    assert.equal(moved.length, 2)
    assert.deepEqual(
      left.map(({ file }) => file),
      ['c.js', 'c.js'],
    )
    for (const { why } of left) assert.match(why, /different values for PORT/)
  })

  it('never shows secrets, and leaves none: each goes into the file of its stage that git ignores', (context) => {
    const keys = { production: 'sky-4Wd9Tq2LmX7cVb31', others: 'drill-9f3KQ2x7Rt4Ws8Lm' }
    const project = makeProject(context, {
      'a.py': `api_key = "${keys.production}" if IS_PROD else "${keys.others}"\nagain = "${keys.others}"\n`,
      'notes.txt': `The key is ${keys.production}\n`,
    })
    project.git('init', '-q')
    const shown = [project.mappa(['survey']), project.mappa(['move', '--all', '--yes'])]
    for (const { stdout, stderr } of shown)
      for (const key of Object.values(keys)) assert.ok(!(stdout + stderr).includes(key))
    assert.match(shown[1]!.stdout, /notes\.txt:1:12 {2}API_KEY/)
    for (const [stage, key] of Object.entries({ ...keys, staging: keys.others, development: keys.others })) {
      if (stage === 'others') continue
      assert.match(readFileSync(join(project.root, `.env.${stage}.local`), 'utf8'), new RegExp(`^API_KEY=${key}$`, 'm'))
    }
    const code = readFileSync(join(project.root, 'a.py'), 'utf8')
    for (const key of Object.values(keys)) assert.ok(!code.includes(key), code)
  })

  it('stays where a stage has another value already', (context) => {
    const project = makeProject(context, {
      'settings.definition.json': JSON.stringify({
        settings: { sky: { url: { kind: 'url', description: 'Sky URL' } } },
      }),
      '.env.production': 'SKY_URL=https://other.fernhollow.example\n',
      'a.py': filled('sky_url = "LIVE" if is_prod else "NEAR"\n'),
    })
    const { stdout } = project.mappa(['move', '--all', '--path', 'sky.url', '--yes'])
    assert.match(stdout, /production/)
    assert.match(stdout, /nothing was written/)
  })

  it('gives a program the same values in each stage', needs('python3'), (context) => {
    const code = `import os
stage = os.environ["STAGE"]
url = "${LIVE}" if stage == "production" else "${NEAR}"
mail_host = "smtp.fernhollow.example" if stage == "production" else "trial.fernhollow.example" if stage == "staging" else "localhost"
port = 443 if stage == "production" else 4100
print(url, mail_host, port + 1)
`
    const project = makeProject(context, { 'a.py': code })
    const stages = ['development', 'staging', 'production']
    const printed = (command: string, words: (stage: string) => string[]) =>
      stages.map((stage) => run(command, words(stage), project.root, { STAGE: stage }).stdout)
    const before = printed('python3', () => ['a.py'])
    project.mappa(['move', '--all', '--yes'])
    assert.doesNotMatch(readFileSync(join(project.root, 'a.py'), 'utf8'), / if /)
    const after = printed(process.execPath, (stage) => [COMMAND, 'run', '--stage', stage, '--', 'python3', 'a.py'])
    assert.deepEqual(after, before)
    assert.equal(new Set(before).size, 3)
  })
})
