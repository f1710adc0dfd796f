/** What matters of a plugin, whichever bundler it is for. */
interface Closing {
  readonly name: string
  closeBundle?: Close | { readonly handler: Close } | null
}

type Close = (this: unknown, ...words: unknown[]) => unknown

/** The plugins whose end is watched already: Vite gives some of them to several builds. */
const watched = new WeakSet<object>()

/**
 * Moves a plugin behind all others of a build, and looks once more where another one fails while the build ends: a bundler would then
 * leave out who comes behind it.
 *
 * @param plugins all of a build, as its bundler gets them
 * @param own the name of the plugin
 * @param failed is called where another one has failed
 */
export function endLast(plugins: unknown, own: string, failed: () => Promise<void>): void {
  if (!Array.isArray(plugins)) return
  const at = plugins.findIndex((each) => isPlugin(each) && each.name === own)
  if (at >= 0) plugins.push(...plugins.splice(at, 1))
  for (const each of plugins.flat(8) as unknown[]) if (isPlugin(each) && each.name !== own) watchEnd(each, failed)
}

const isPlugin = (each: unknown): each is Closing => typeof each === 'object' && each !== null && 'name' in each

function watchEnd(plugin: Closing, failed: () => Promise<void>): void {
  const { closeBundle } = plugin
  if (closeBundle == null || watched.has(plugin)) return
  watched.add(plugin)
  const close = typeof closeBundle === 'function' ? closeBundle : closeBundle.handler
  const handler: Close = async function (...words) {
    try {
      await close.apply(this, words)
    } catch (error) {
      await failed()
      throw error
    }
  }
  plugin.closeBundle = typeof closeBundle === 'function' ? handler : { ...closeBundle, handler }
}
