import type { Format } from '../format.ts'
import { directory } from './directory.ts'
import { docker } from './docker.ts'
import { json } from './json.ts'
import { kubernetes } from './kubernetes.ts'
import { sh } from './sh.ts'
import { systemd } from './systemd.ts'
import { yaml } from './yaml.ts'

/** Every format, in the order of `--help`. */
export const formats: readonly Format[] = [json, yaml, sh, docker, systemd, kubernetes, directory]
