import type { Store } from '@mappa/core/store/store'
import { Gateway } from './gateway.ts'
import { readHistory } from './history.ts'
import { Keys } from './keys.ts'
import { checkOptions, type EtcdOptions } from './options.ts'
import { readStage } from './reading.ts'
import { watchStage } from './watching.ts'
import { writeChanges } from './writing.ts'

/**
 * A store in etcd: one key for each variable, `<prefix>/<stage>/<NAME>`. Reads one revision, never half of a change; watches from a
 * revision on without losing a change, also over broken connections; writes by compare-and-swap, all or nothing.
 *
 * @throws {SettingsError} where options are wrong; nothing is connected to before something is asked for
 * @example
 * ```ts
 * const store = etcdStore({
 *   endpoints: ['https://etcd-1.fernhollow.example:2379', 'https://etcd-2.fernhollow.example:2379'],
 *   prefix: 'fernhollow/dome-api',
 *   username: 'dome-api',
 *   password: process.env.STORE_PASSWORD,
 * })
 * const settings = await fetchSettings(definition, { store })
 * ```
 */
export function etcdStore(options: EtcdOptions): Store {
  const checked = checkOptions(options)
  const gateway = new Gateway(checked)
  const keys = new Keys(checked.prefix)
  return {
    id: 'etcd',
    describe: () => `etcd ${checked.prefix}`,
    read: (stage, request = {}) => readStage(gateway, keys, stage, request),
    watch: (from, watcher) => watchStage(gateway, keys, from, watcher),
    write: (changes, expected, request = {}) => writeChanges(gateway, keys, changes, expected, request),
    history: (stage, request = {}) => readHistory(gateway, keys, stage, request),
    close: () => gateway.close(),
  }
}
