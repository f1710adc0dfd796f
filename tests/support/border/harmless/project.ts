import type { InlineConfig, PluginOption } from 'vite'

/** A project in which nothing private gets to a page, however it looks. */
export interface HarmlessProject {
  readonly name: string
  readonly files: Readonly<Record<string, string | Uint8Array>>
  /** Packages that have to be where the project finds them. */
  readonly packages?: readonly string[]
  /** Plugins beside ours, before it. */
  readonly plugins?: () => Promise<PluginOption>
  readonly config?: InlineConfig
  /** What is asked for while it is served, beside the page and what that leads to. */
  readonly urls?: readonly string[]
}

export const html = (head: string, body: string, main = '/src/main.ts') =>
  `<!doctype html><html lang="en"><head><meta charset="utf-8"><link rel="icon" href="data:,"><title>Fernhollow</title>${head}</head><body>${body}<script type="module" src="${main}"></script></body></html>\n`

/** Puts what two parts of a project say together. */
export function join(first: HarmlessProject, second: Partial<HarmlessProject>): HarmlessProject {
  const plugins = async () => [await first.plugins?.(), await second.plugins?.()]
  return {
    ...first,
    ...second,
    files: { ...first.files, ...second.files },
    packages: [...(first.packages ?? []), ...(second.packages ?? [])],
    plugins,
    config: { ...first.config, ...second.config },
    urls: [...(first.urls ?? []), ...(second.urls ?? [])],
  }
}
