import assert from 'node:assert/strict'
import { cpSync, readdirSync, readFileSync, statSync } from 'node:fs'
import { homedir } from 'node:os'
import { join } from 'node:path'
import { describe, it } from 'node:test'
import { needs, type ProgramName } from '@mappa/tests/support/programs'
import { COMMAND, makeProject, type Project, run } from '@mappa/tests/support/project'
import { parse as parseYaml } from 'yaml'

const PROGRAMS = join(import.meta.dirname, 'programs')
const KEY = 'drill-9f3KQ2x7Rt4Ws8Lm'

/** Go keeps what it compiled there. */
const HOME = { HOME: homedir() }

/** Programs in other languages: how each is tested, how many values move, and in how many places one has to stay. */
const PROGRAM_TESTS: Readonly<
  Record<string, readonly [test: readonly string[], values: number, left: number, ...programs: ProgramName[]]>
> = {
  python: [['python3', '-B', '-m', 'unittest', 'discover', 'tests'], 20, 0, 'python3'],
  php: [['php', 'test.php'], 18, 2, 'php-cli'],
  ruby: [['ruby', 'desk_test.rb'], 15, 0, 'ruby'],
  shell: [['bash', 'test.sh'], 12, 0],
  go: [['go', 'test', './...'], 15, 0, 'golang-go'],
}

/** The text of every file of a project that is committed, by its path. */
function texts({ root }: Project): ReadonlyMap<string, string> {
  const files = readdirSync(root, { recursive: true, encoding: 'utf8' }).filter(
    (file) => !/^(?:node_modules|\.git)(?:\/|$)|\.local$/.test(file) && statSync(join(root, file)).isFile(),
  )
  return new Map(files.map((file) => [file, readFileSync(join(root, file), 'utf8')]))
}

describe('mappa move, in a program', () => {
  for (const [name, [test, values, stay, ...programs]] of Object.entries(PROGRAM_TESTS)) {
    it(`of ${name}: its own tests hold under mappa run, and no secret is left`, needs(...programs), (context) => {
      const project = makeProject(context, {})
      cpSync(join(PROGRAMS, name), project.root, { recursive: true })
      project.git('init', '-q')
      const [command, ...words] = test
      assert.equal(run(command!, words, project.root, HOME).status, 0, 'the program works before')
      const { status, stdout } = project.mappa(['move', '--all', '--yes', '--json'])
      const { moved, left, starts } = JSON.parse(stdout) as {
        moved: { name: string; secret: boolean }[]
        left: { why: string }[]
        starts: string[]
      }
      assert.deepEqual([status, left.length], [stay === 0 ? 0 : 1, stay], JSON.stringify(left))
      assert.equal(moved.length, values)
      assert.equal(starts.length, 1)
      const secrets = readFileSync(join(project.root, '.env.development.local'), 'utf8')
        .split('\n')
        .flatMap((line) => /^\w+=(['"]?)([^'"]{8,})\1$/.exec(line)?.[2] ?? [])
      assert.ok(secrets.length >= 4)
      for (const [file, text] of texts(project))
        for (const secret of secrets) assert.ok(!text.includes(secret), `${file} holds a secret`)
      const tested = run(process.execPath, [COMMAND, 'run', '--', ...test], project.root, HOME)
      assert.equal(tested.status, 0, tested.stdout + tested.stderr)
      // Once more: nothing is left to find, and nothing changes.
      const again = JSON.parse(project.mappa(['move', '--all', '--yes', '--json']).stdout)
      assert.deepEqual([again.moved, again.written], [[], false])
    })
  }
})

/** What each line of a file becomes, the places of values with `KEY` in them. */
const lines: Readonly<Record<string, readonly [file: string, before: string, after: string]>> = {
  'a text of bytes in Python': [
    'a.py',
    "api_key = b'KEY'\n",
    "import os\n\napi_key = os.environ['API_KEY'].encode()\n",
  ],
  'behind a docstring and a future import of Python': [
    'a.py',
    '"""Opens the dome."""\nfrom __future__ import annotations\n\napi_key = "KEY"\n',
    '"""Opens the dome."""\nfrom __future__ import annotations\nimport os\n\napi_key = os.environ["API_KEY"]\n',
  ],
  'under the name that Python knows os by': [
    'a.py',
    'from os import environ as e\napi_key = "KEY"\n',
    'from os import environ as e\napi_key = e["API_KEY"]\n',
  ],
  'before a format of Python': [
    'a.py',
    'import os\napi_key = "KEY"\nurl = "https://x.fernhollow.example/?key=KEY&night=%s" % night\n',
    'import os\napi_key = os.environ["API_KEY"]\nurl = ("https://x.fernhollow.example/?key=" + os.environ["API_KEY"] + "&night=%s") % night\n',
  ],
  'line ends of Windows, and a tab': [
    'a.py',
    'import sys\r\n\r\nif True:\r\n\tapi_key = "KEY"\r\n',
    'import os\r\nimport sys\r\n\r\nif True:\r\n\tapi_key = os.environ["API_KEY"]\r\n',
  ],
  'behind a byte order mark': [
    'a.py',
    '\ufeffimport sys\n\napi_key = "KEY"\n',
    '\ufeffimport os\nimport sys\n\napi_key = os.environ["API_KEY"]\n',
  ],
  'a fallback of PHP': [
    'a.php',
    "<?php\n$key = getenv('API_KEY') ?: 'KEY';\n$other = $_ENV['API_KEY'] ?? 'KEY';\n",
    "<?php\n$key = getenv('API_KEY');\n$other = getenv('API_KEY');\n",
  ],
  'among markup': [
    'a.php',
    '<p>KEY2</p>\n<?php $apiKey = "KEY"; ?>\n<p>Night</p>\n',
    '<p>KEY2</p>\n<?php $apiKey = getenv("API_KEY"); ?>\n<p>Night</p>\n',
  ],
  'all constants of a group of Go': [
    'a.go',
    'package a\n\nconst (\n\tapiKey = "KEY"\n)\n',
    'package a\n\nimport "os"\n\nvar (\n\tapiKey = os.Getenv("API_KEY")\n)\n',
  ],
  'an interpolation of Ruby': [
    'a.rb',
    'api_key = \'KEY\'\nurl = "https://x.fernhollow.example/?key=KEY&n=#{night}"\n',
    "api_key = ENV.fetch('API_KEY')\nurl = \"https://x.fernhollow.example/?key=#{ENV.fetch('API_KEY')}&n=#{night}\"\n",
  ],
  'single quotes of a shell': [
    'a.sh',
    "API_KEY='KEY'\nsend 'key: KEY, all' \"$API_KEY\"\n",
    'API_KEY="${API_KEY:?}"\nsend \'key: \'"${API_KEY:?}"\', all\' "$API_KEY"\n',
  ],
  'Java, with a scheme before it': [
    'A.java',
    'class A { String apiKey = "KEY"; void a() { send("Authorization", "Bearer KEY"); } }\n',
    'class A { String apiKey = System.getenv("API_KEY"); void a() { send("Authorization", "Bearer " + System.getenv("API_KEY")); } }\n',
  ],
  'a constant of Kotlin': [
    'a.kt',
    'object A {\n    const val API_KEY = "KEY"\n}\n',
    'object A {\n    val API_KEY: String = System.getenv("API_KEY")\n}\n',
  ],
  'a constant of C#': [
    'A.cs',
    'class A {\n    private const string ApiKey = "KEY";\n}\n',
    'class A {\n    private static readonly string ApiKey = System.Environment.GetEnvironmentVariable("API_KEY");\n}\n',
  ],
  'Rust, as a text of its own': [
    'a.rs',
    'fn main() {\n    let api_key = "KEY".to_string();\n}\n',
    'fn main() {\n    let api_key = std::env::var("API_KEY").expect("API_KEY is not set").to_string();\n}\n',
  ],
  'a service of compose': [
    'compose.yaml',
    'services:\n  dome:\n    environment:\n      API_KEY: KEY\n      OTHER: "x-KEY"\n    labels: { key: KEY }\n',
    'services:\n  dome:\n    environment:\n      API_KEY: ${API_KEY}\n      OTHER: "x-${API_KEY}"\n    labels: { key: "${API_KEY}" }\n',
  ],
  'a variable of make, and a command': [
    'Makefile',
    'API_KEY = KEY\n\nsend:\n\tsend "key=KEY"\n',
    'API_KEY := $(or $(API_KEY),$(error API_KEY is not set))\n\nsend:\n\tsend "key=$${API_KEY:?}"\n',
  ],
  'a variable of Terraform, and a value of a resource': [
    'main.tf',
    'variable "api_key" {\n  type    = string\n  default = "KEY"\n}\nresource "dome" "main" {\n  password = "fog-4711-lamp"\n}\n',
    'variable "api_key" {\n  type    = string\n  sensitive = true\n}\nresource "dome" "main" {\n  password = var.main_password\n}\n\nvariable "main_password" {\n  type      = string\n  sensitive = true\n}\n',
  ],
  'a variable of Terraform that an output shows, and no backend': [
    'main.tf',
    'terraform {\n  backend "s3" {\n    access_key = "KEY2-of-the-state-7"\n  }\n}\n\nvariable "api_key" {\n  description = "A key"\n  default = "KEY"\n}\n\nresource "dome" "main" {\n  password = "fog-4711-lamp"\n}\n\noutput "address" {\n  value = "dome:${var.api_key}"\n}\n',
    'terraform {\n  backend "s3" {\n    access_key = "KEY2-of-the-state-7"\n  }\n}\n\nvariable "api_key" {\n  description = "A key"\n}\n\nresource "dome" "main" {\n  password = var.main_password\n}\n\noutput "address" {\n  value = "dome:${var.api_key}"\n}\n\nvariable "main_password" {\n  type = string\n}\n',
  ],
  'the code of a server in a component, and no script of its page': [
    'src/a.astro',
    '---\nconst apiKey = "KEY"\n---\n<p>{apiKey}</p>\n<script>\n  const other = 1\n</script>\n',
    '---\nimport { settings } from "./settings.mjs"\nconst apiKey = settings.api.key.reveal()\n---\n<p>{apiKey}</p>\n<script>\n  const other = 1\n</script>\n',
  ],
  'a component': [
    'src/A.vue',
    '<script setup lang="ts">\nconst url = \'https://maps.fernhollow.example/tiles\'\n</script>\n',
    '<script setup lang="ts">\nimport { settings } from \'virtual:mappa/browser\'\nconst url = settings.maps.url\n</script>\n',
  ],
}

const PARSERS: Readonly<Record<string, (text: string) => unknown>> = {
  'dome.json': (text) => JSON.parse(text),
  'dome.yaml': (text) => parseYaml(text),
}

describe('mappa move --templates', () => {
  /** What the template is, and what is written of it by mappa fill is what was there. */
  const files: Readonly<Record<string, readonly [text: string, template: string]>> = {
    'dome.json': [
      '{\n  "apiKey": "a\\"KEY",\n  "port": 4100,\n  "note": "${HOME}"\n}\n',
      '{\n  "apiKey": "${API_KEY|json}",\n  "port": ${SERVER_PORT},\n  "note": "$${HOME}"\n}\n',
    ],
    'dome.yaml': ["api_key: 'it''s KEY'\nport: 4100\n", 'api_key: ${API_KEY|yaml}\nport: ${SERVER_PORT}\n'],
    'dome.toml': ['[dome]\napi_key = "KEY"\n', '[dome]\napi_key = "${DOME_API_KEY|json}"\n'],
    'dome.ini': ['[dome]\napi_key = KEY\n', '[dome]\napi_key = ${DOME_API_KEY}\n'],
    'dome.swift': ['let apiKey = "KEY", hill = "\\(place)"\n', 'let apiKey = "${API_KEY}", hill = "\\(place)"\n'],
    'dome.dart': [
      "const apiKey = 'KEY';\nfinal hill = '${place}';\n",
      "const apiKey = '${API_KEY}';\nfinal hill = '$${place}';\n",
    ],
    'dome.xml': ['<dome apiKey="KEY&amp;1"/>\n', '<dome apiKey="${API_KEY|xml}"/>\n'],
  }
  for (const [file, [text, template]] of Object.entries(files)) {
    it(`makes a template of ${file}, and mappa fill the file of it again`, (context) => {
      const before = text.replaceAll(/(?<![A-Z_])KEY/g, KEY)
      const project = makeProject(context, { [file]: before })
      project.git('init', '-q')
      const { stdout } = project.mappa(['move', '--all', '--yes', '--templates'])
      const name = file.replace('.', '.template.')
      assert.equal(readFileSync(join(project.root, name), 'utf8'), template)
      assert.ok(stdout.includes(`mappa fill ${name} --out ${file} --with-secrets`) && !stdout.includes(KEY))
      assert.match(readFileSync(join(project.root, '.gitignore'), 'utf8'), new RegExp(`^/${file}$`, 'm'))
      const filled = project.mappa(['fill', name, '--out', file, '--with-secrets', '--force'])
      assert.deepEqual([filled.status, filled.stderr], [0, ''])
      const after = readFileSync(join(project.root, file), 'utf8')
      const parse = PARSERS[file]
      if (parse === undefined) assert.equal(after.replaceAll('&#38;', '&amp;'), before)
      else assert.deepEqual(parse(after), parse(before))
    })
  }
})

describe('mappa move, in a notebook', () => {
  const notebook = (code: readonly string[], printed: string) =>
    `${JSON.stringify(
      {
        cells: [
          { cell_type: 'code', metadata: {}, outputs: [{ text: [printed] }], source: code },
          { cell_type: 'code', outputs: [{ text: ['42\n'] }], source: ['6 * 7'] },
        ],
        nbformat: 4,
      },
      null,
      1,
    )}\n`
  const before = notebook(['import requests\n', '\n', `api_key = "${KEY}"\n`, 'show(api_key)'], `${KEY}\n`)
  const code = ['import os\n', 'import requests\n', '\n', 'api_key = os.environ["API_KEY"]\n', 'show(api_key)']

  it('changes the code alone, and clears the outputs that show the key when told to', (context) => {
    const project = makeProject(context, { 'sky.ipynb': before })
    assert.equal(project.mappa(['move', '--all', '--yes', '--clear-outputs']).status, 0)
    const cleared = notebook(code, 'X').replace(/"outputs": \[\s*\{\s*"text": \[\s*"X"\s*\]\s*\}\s*\]/, '"outputs": []')
    assert.equal(readFileSync(join(project.root, 'sky.ipynb'), 'utf8'), cleared)
  })

  it('leaves the outputs as they are otherwise, and says so', (context) => {
    const project = makeProject(context, { 'sky.ipynb': before })
    const { status, stdout } = project.mappa(['move', '--all', '--yes'])
    assert.equal(status, 1)
    assert.match(stdout, /an output of the notebook shows it: --clear-outputs removes such outputs/)
    assert.equal(readFileSync(join(project.root, 'sky.ipynb'), 'utf8'), notebook(code, `${KEY}\n`))
  })
})

describe('mappa move rewrites', () => {
  for (const [name, [file, before, after]] of Object.entries(lines)) {
    it(name, (context) => {
      const project = makeProject(context, {
        [file]: before.replaceAll('KEY2', 'Night').replaceAll(/(?<![A-Z_])KEY/g, KEY),
        'package.json': '{ "type": "module", "devDependencies": { "vite": "*" } }',
      })
      const { stdout } = project.mappa(['move', '--all', '--yes'])
      assert.ok(!stdout.includes(KEY))
      assert.equal(readFileSync(join(project.root, file), 'utf8'), after.replaceAll('KEY2', 'Night'))
    })
  }

  for (const [kind, isTold] of [
    ['dependencies', false],
    ['devDependencies', false],
    ['peerDependencies', true],
  ] as const)
    it(`a page, and ${isTold ? 'says what to install' : 'asks for nothing that is there'}: ${kind}`, (context) => {
      const packages = {
        devDependencies: { vite: '*' } as Record<string, string>,
        [kind]: { vite: '*', 'mappa-settings': '*' },
      }
      const project = makeProject(context, {
        'package.json': JSON.stringify({ type: 'module', ...packages }),
        'index.html': '<script type="module" src="/src/main.js"></script>\n',
        'src/main.js':
          "const API_URL = 'https://maps.fernhollow.example/tonight'\ndocument.title = API_URL\nfetch(API_URL)\n",
      })
      const { stdout } = project.mappa(['move', '--all', '--yes'])
      assert.match(readFileSync(join(project.root, 'src/main.js'), 'utf8'), /virtual:mappa\/browser/, stdout)
      assert.equal(stdout.includes('npm install mappa-settings'), isTold, stdout)
    })

  /** What stays, and the reason. */
  const left: Readonly<Record<string, readonly [file: string, text: string, why: RegExp]>> = {
    'the default of a parameter of PHP': ['a.php', "<?php\nfunction f($apiKey = 'KEY') {}\n", /constant expression/],
    'a class constant that others see': ['a.php', "<?php\nclass A { const API_KEY = 'KEY'; }\n", /constant expression/],
    'a private constant that is read by the name of its class': [
      'a.php',
      "<?php\nfinal class A { private const API_KEY = 'KEY'; function f() { return A::API_KEY; } }\n",
      /constant expression/,
    ],
    'a property of a class that others extend': [
      'a.php',
      "<?php\nclass A { protected $apiKey = 'KEY'; }\nclass B extends A { function __construct() {} }\n",
      /constant expression/,
    ],
    'a text of several lines of PHP': [
      'a.php',
      '<?php\n$a = <<<END\napi_key=KEY\nEND;\n$apiKey = "KEY";\n',
      /several lines/,
    ],
    'a constant of Go that another needs': [
      'a.go',
      'package a\n\nconst apiKey = "KEY"\nconst header = "Bearer " + apiKey\n',
      /constant expression/,
    ],
    'a constant of Rust': ['a.rs', 'const API_KEY: &str = "KEY";\n', /constant expression/],
    'an annotation of Java': ['A.java', '@Auth(apiKey = "KEY") class A {}\n', /constant expression/],
    'a text in which the shell expands nothing': [
      'a.sh',
      "API_KEY='x'\ncat <<'END'\napi_key=KEY\nEND\n",
      /expands no variables/,
    ],
    'a secret of an image': ['Dockerfile', 'FROM x\nENV API_KEY=KEY\n', /when it starts/],
    'a file that can read no variable': ['values.yaml', 'api_key: KEY\n', /--templates makes a template/],
    'a file in JSON': ['a.json', '{ "api_key": "KEY" }\n', /--templates makes templates/],
    'what an output shows': [
      'a.ipynb',
      `${JSON.stringify({ cells: [{ cell_type: 'code', source: ['api_key = "KEY"'], outputs: [{ text: ['KEY'] }] }] })}\n`,
      /an output of the notebook shows it/,
    ],
  }
  for (const [name, [file, text, why]] of Object.entries(left)) {
    it(`not ${name}, and says why`, (context) => {
      const project = makeProject(context, { [file]: text.replaceAll(/(?<![A-Z_])KEY/g, KEY) })
      const { status, stdout } = project.mappa(['move', '--all', '--yes', '--json'])
      const reasons = (JSON.parse(stdout) as { left: { why: string }[] }).left.map((each) => each.why)
      assert.equal(status, 1)
      assert.ok(reasons.length > 0 && reasons.some((each) => why.test(each)), reasons.join('; '))
      assert.ok(!stdout.includes(KEY))
    })
  }

  // Each has an address that the code goes on from, and the same address with a key behind it.
  const both: Readonly<Record<string, string>> = {
    'a.js': 'one(`HOST/${place}`)\nfetch("HOST/now?appid=KEY&n=1")\n',
    'a.py': 'one = f"HOST/{place}"\ntwo = requests.get("HOST/now?appid=KEY&n=1")\n',
    'a.php': '<?php\n$one = "HOST/$place";\n$two = get("HOST/now?appid=KEY&n=1");\n',
    'a.go': 'package a\n\nvar one = fmt.Sprintf("HOST/%s", p)\nvar two = http.Get("HOST/now?appid=KEY&n=1")\n',
    'a.rb': 'one = "HOST/#{place}"\ntwo = get("HOST/now?appid=KEY&n=1")\n',
    'A.java': 'class A { String one = "HOST/" + p; String two = get("HOST/now?appid=KEY&n=1"); }\n',
    'a.sh': 'curl "HOST/$PLACE"\ncurl "HOST/now?appid=KEY&n=1"\n',
    'a.json': '{ "url": "HOST", "nowUrl": "HOST/now?appid=KEY&n=1" }\n',
  }
  for (const [file, text] of Object.entries(both))
    it(`moves an address and the key behind it out of one text (${file})`, (context) => {
      const filled = text.replaceAll('HOST', 'https://sky.fernhollow.example/v1').replaceAll('KEY', KEY)
      const project = makeProject(context, { [file]: filled })
      const { stdout } = project.mappa(['move', '--all', '--yes', '--templates', '--json'])
      const { left, moved } = JSON.parse(stdout) as { left: unknown[]; moved: { secret: boolean }[] }
      assert.deepEqual([left, moved.map(({ secret }) => secret).sort()], [[], [false, true]])
      const written = readFileSync(join(project.root, file.replace('.json', '.template.json')), 'utf8')
      assert.ok(!written.includes(KEY) && !written.includes('fernhollow'), written)
      assert.match(written, /\/now\?appid=.*&n=1/)
      assert.match(readFileSync(join(project.root, '.env.development.local'), 'utf8'), new RegExp(KEY))
    })

  it('moves each of several keys out of one address', (context) => {
    const project = makeProject(context, {
      'a.js': `fetch('https://sky.fernhollow.example/now?appid=${KEY}&sig_token=drizzle-4711-and-fog')\n`,
    })
    const { stdout } = project.mappa(['move', '--all', '--yes', '--json'])
    assert.deepEqual(JSON.parse(stdout).left, [])
    assert.match(
      readFileSync(join(project.root, 'a.js'), 'utf8'),
      /\nfetch\(`https:\/\/sky.fernhollow.example\/now\?appid=\$\{settings\.\w+\.appid\.reveal\(\)\}&sig_token=\$\{settings\.sig\.token\.reveal\(\)\}`\)/,
    )
  })

  const published: Readonly<Record<string, readonly [before: string, after: string | null]>> = {
    'in double quotes': ['ports: ["4100:4100"]', 'ports: ["${DOME_PORT}:4100"]'],
    'in single quotes': ["ports: ['127.0.0.1:4100:4100']", "ports: ['127.0.0.1:${DOME_PORT}:4100']"],
    'in lines': ['ports:\n      - 4100:4100', 'ports:\n      - ${DOME_PORT}:4100'],
    'in lines, quoted': ['ports:\n      - "4100:4100"', 'ports:\n      - "${DOME_PORT}:4100"'],
    'without quotes, in brackets': ['ports: [4100:4100]', null],
  }
  for (const [how, [before, after]] of Object.entries(published))
    it(`moves the published port of a service, ${how}, or leaves it`, (context) => {
      const compose = (text: string) => `services:\n  dome:\n    ${text}\n    environment:\n      PORT: 4100\n`
      const project = makeProject(context, { 'compose.yaml': compose(before) })
      project.mappa(['move', '--all', '--yes'])
      const written = readFileSync(join(project.root, 'compose.yaml'), 'utf8')
      assert.equal(written, compose(after ?? before).replace('PORT: 4100', 'PORT: ${DOME_PORT}'))
      assert.deepEqual(parseYaml(written.replaceAll('${DOME_PORT}', '4100')), parseYaml(compose(before)))
    })
})
