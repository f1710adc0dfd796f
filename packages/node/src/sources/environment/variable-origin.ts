import { fs, path } from '../../fs/builtin.ts'

/**
 * Who gave this process a variable:
 * - `start`: whoever started it, by hand or as a host
 * - `code`: code in this process, after its start
 * - `ancestor`: a program above that may have loaded it from a file and passed it on
 * - `unknown`: the system does not say
 */
export type VariableOrigin = 'start' | 'code' | 'ancestor' | 'unknown'

/** Programs that pass on what they were given, or what a person typed. */
const SHELLS =
  /^(?:a|ba|da|fi|k|mk|z|tc|c|nu)?sh$|^busybox$|^pwsh$|^(?:systemd|init|tini|dumb-init|docker-init|s6-\w+|runc|conmon|sshd|login|su|sudo|env|timeout|nohup|setsid|time|make|xargs|crond?|tmux(?:: server)?|screen)$|^containerd-shim/
/** Programs that run code, which may load files. */
const RUNTIMES = /^(?:node|bun|deno|electron|python|ruby|php|perl|java)[\d.-]*$/i

/**
 * Finds out who gave this process a variable. Linux remembers what each process was started with; other systems don't say. A process
 * that was started by another one has what that one loaded, so the processes above are asked as well.
 *
 * @param value what the variable has now
 */
export function findVariableOrigin(name: string, value: string): VariableOrigin {
  const own = readStart('self')
  if (own === null) return 'unknown'
  if (own.get(name) !== value) return 'code'
  for (let id = process.ppid; id > 0; id = findParent(id)) {
    const program = findProgram(id)
    const start = readStart(String(id))
    if (start?.get(name) === value) continue
    if (SHELLS.test(program)) return 'start'
    return start !== null && RUNTIMES.test(program) ? 'ancestor' : 'unknown'
  }
  return 'start'
}

/** What was read once stays true: the system changes none of it, and processes above don't change. */
const starts = new Map<string, ReadonlyMap<string, string> | null>()

/** What a process was started with; `null` where the system does not say. */
function readStart(id: string): ReadonlyMap<string, string> | null {
  const known = starts.get(id)
  if (known !== undefined) return known
  const found = parseStart(read(`/proc/${id}/environ`))
  starts.set(id, found)
  return found
}

function parseStart(text: string | null): ReadonlyMap<string, string> | null {
  if (text === null) return null
  return new Map(
    text.split('\0').map((pair): [string, string] => [pair.split('=', 1)[0]!, pair.slice(pair.indexOf('=') + 1)]),
  )
}

/** The parent of a process, `0` where it has none that can be seen. */
function findParent(id: number): number {
  // The name of a program stands in parentheses, and may have some itself.
  const [, parent = '0'] = /^.*\) \S (\d+)/s.exec(read(`/proc/${id}/stat`) ?? '') ?? []
  return Number(parent)
}

/** The name of the program of a process: that of its file, since a process can rename itself. */
function findProgram(id: number): string {
  try {
    return path.basename(fs.readlinkSync(`/proc/${id}/exe`)).replace(/ \(deleted\)$/, '')
  } catch {
    return read(`/proc/${id}/comm`)?.trim() ?? ''
  }
}

function read(file: string): string | null {
  try {
    return fs.readFileSync(file, 'utf8')
  } catch {
    return null
  }
}
