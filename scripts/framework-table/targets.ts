/** A framework: how its example is built, and what a developer does wrong in it. Files are relative to the example. */
export interface Target {
  readonly name: string
  /** The directory of the example. */
  readonly example: string
  /** Where the definition goes. */
  readonly definition: string
  /** The least version of Node that it runs on, if that is not 20. */
  readonly node?: '22'
  /** False for servers that are started as they are, or compiled without settings: they are built for no stage. */
  readonly isBuilt: boolean
  /** Page code that imports what is for servers; a reason where there is no page code. */
  readonly border: Readonly<Record<string, string>> | string
  /** A page that shows a key and is rendered by the build. */
  readonly prerender: Readonly<Record<string, string>> | string
  /** A route that hands a secret to a page or an answer as it is, and its path. */
  readonly payload: { readonly path: string; readonly files: Readonly<Record<string, string>> }
}

const NO_PAGES = 'it has no code for pages'
const NOT_RENDERED = 'it renders nothing while it is built'
const REVEAL = 'settings.desk.key.reveal()'

export const TARGETS: readonly Target[] = [
  {
    name: 'Next.js',
    example: 'next',
    definition: 'settings.definition.ts',
    isBuilt: true,
    border: {
      'app/desk.tsx': `'use client'
import { settings } from '../settings.ts'
export function Desk() {
  return <p id="map">{settings.dome.url}</p>
}
`,
    },
    prerender: {
      'app/about/page.tsx': `import { settings } from '../../settings.ts'
export default function About() {
  return <p>{${REVEAL}}</p>
}
`,
    },
    payload: {
      path: '/given',
      files: {
        'app/given/page.tsx': `import { connection } from 'next/server'
import { settings } from '../../settings.ts'
import { Given } from './given.tsx'
export default async function Page() {
  await connection()
  return <Given desk={settings.desk} />
}
`,
        'app/given/given.tsx': `'use client'
export function Given({ desk }: { desk: object }) {
  return <p>{JSON.stringify(desk)}</p>
}
`,
      },
    },
  },
  {
    name: 'Nuxt',
    example: 'nuxt',
    definition: 'settings.definition.ts',
    isBuilt: true,
    border: {
      'app/pages/index.vue': `<script setup lang="ts">
import { settings } from '../../server/settings.ts'
</script>
<template><p>{{ settings.dome.url }}</p></template>
`,
    },
    prerender: {
      'server/api/key.ts': `import { settings } from '../settings.ts'
export default defineEventHandler(() => ({ key: ${REVEAL} }))
`,
      'app/pages/about.vue': `<script setup lang="ts">
const { data } = await useFetch('/api/key')
</script>
<template><p>{{ data?.key }}</p></template>
`,
    },
    payload: {
      path: '/api/desk',
      files: {
        'server/api/desk.ts': `import { settings } from '../settings.ts'
export default defineEventHandler(() => ({ desk: settings.desk }))
`,
      },
    },
  },
  {
    name: 'SvelteKit',
    example: 'sveltekit',
    definition: 'settings.definition.ts',
    isBuilt: true,
    border: {
      'src/routes/+page.svelte': `<script lang="ts">
  import { settings } from 'virtual:mappa/server'
</script>
<p>{settings.dome.url}</p>
`,
    },
    prerender: {
      'src/routes/about/+page.server.ts': `import { settings } from 'virtual:mappa/server'
export const load = () => ({ key: ${REVEAL} })
`,
      'src/routes/about/+page.svelte': `<script lang="ts">
  const { data } = $props()
</script>
<p>{data.key}</p>
`,
    },
    payload: {
      path: '/',
      files: {
        'src/routes/+page.server.ts': `import { settings } from 'virtual:mappa/server'
export const load = () => ({ desk: settings.desk })
`,
      },
    },
  },
  {
    name: 'Astro',
    example: 'astro',
    definition: 'settings.definition.ts',
    node: '22',
    isBuilt: true,
    border: {
      'src/pages/index.astro': `<p>Tonight</p>
<script>
import { settings } from 'virtual:mappa/server'
document.title = settings.dome.url
</script>
`,
    },
    prerender: {
      'src/pages/about.astro': `---
import { settings } from 'virtual:mappa/server'

export const prerender = true
---
<p>{${REVEAL}}</p>
`,
    },
    payload: {
      path: '/given.json',
      files: {
        'src/pages/given.json.ts': `import { settings } from 'virtual:mappa/server'
export const GET = () => Response.json({ desk: settings.desk })
`,
      },
    },
  },
  {
    name: 'React Router',
    example: 'react-router',
    definition: 'settings.definition.ts',
    isBuilt: true,
    border: {
      'app/routes/home.tsx': `import { settings } from 'virtual:mappa/server'
export default function Home() {
  return <p>{settings.dome.url}</p>
}
`,
    },
    prerender: {
      'app/routes/about.tsx': `import { settings } from '../settings.server.ts'
export const loader = () => ({ key: ${REVEAL} })
export default function About({ loaderData }: { loaderData: { key: string } }) {
  return <p>{loaderData.key}</p>
}
`,
    },
    payload: {
      path: '/',
      files: {
        'app/routes/home.tsx': `import { settings } from '../settings.server.ts'
export const loader = () => ({ desk: settings.desk })
export default function Home({ loaderData }: { loaderData: { desk: object } }) {
  return <p>{JSON.stringify(loaderData.desk)}</p>
}
`,
      },
    },
  },
  {
    name: 'NestJS',
    example: 'nest',
    definition: 'src/settings.definition.ts',
    isBuilt: false,
    border: NO_PAGES,
    prerender: NOT_RENDERED,
    payload: { path: '/settings', files: {} },
  },
  {
    name: 'Fastify',
    example: 'fastify',
    definition: 'settings.definition.js',
    isBuilt: false,
    border: NO_PAGES,
    prerender: NOT_RENDERED,
    payload: { path: '/settings', files: {} },
  },
  {
    name: 'Hono',
    example: 'hono',
    definition: 'settings.definition.js',
    isBuilt: false,
    border: NO_PAGES,
    prerender: NOT_RENDERED,
    payload: { path: '/settings', files: {} },
  },
]
