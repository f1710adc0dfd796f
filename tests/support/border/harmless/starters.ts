import type { PluginOption } from 'vite'
import { importCompat } from '../../compat.ts'
import { type HarmlessProject, html } from './project.ts'

type Make<Options = unknown> = (options?: Options) => PluginOption
const pluginOf = async (name: string, options?: unknown) =>
  (await importCompat<{ default: Make }>(name)).default(options)

const STYLE = '.night { color: #223; background: rgb(250 250 255) }\n#app { font-family: system-ui, sans-serif }\n'
const mount = "document.querySelector('#app')!"

/** What a starter of each kind has: a component with its public settings, a style, a form and a click. */
export const STARTERS: readonly HarmlessProject[] = [
  {
    name: 'React',
    packages: ['react', 'react-dom', 'scheduler'],
    plugins: () => pluginOf('@vitejs/plugin-react'),
    files: {
      'index.html': html('', '<div id="root"></div>', '/src/main.tsx'),
      'src/main.tsx': `import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import './desk.css'
import { Desk } from './Desk.tsx'
createRoot(document.getElementById('root')!).render(<StrictMode><Desk /></StrictMode>)
`,
      'src/Desk.tsx': `import { settings } from 'virtual:mappa/browser'
import { useState } from 'react'
export function Desk() {
  const [places, setPlaces] = useState(settings.visitor.places)
  return (
    <form className="night" onSubmit={(event) => event.preventDefault()}>
      <a href={settings.visitor.starMapUrl}>map</a>
      <label>Password <input type="password" name="password" autoComplete="current-password" /></label>
      <button type="button" onClick={() => setPlaces((now) => now - 1)}>{places} places</button>
    </form>
  )
}
`,
      'src/desk.css': STYLE,
    },
  },
  {
    name: 'Vue',
    packages: ['vue'],
    plugins: () => pluginOf('@vitejs/plugin-vue'),
    files: {
      'index.html': html('', '<div id="app"></div>'),
      'src/main.ts': "import { createApp } from 'vue'\nimport Desk from './Desk.vue'\ncreateApp(Desk).mount('#app')\n",
      'src/Desk.vue': `<script setup lang="ts">
import { computed, ref } from 'vue'
import { settings } from 'virtual:mappa/browser'
const left = ref(settings.visitor.places)
const isFull = computed(() => left.value === 0)
</script>
<template>
  <form @submit.prevent>
    <a :href="settings.visitor.starMapUrl">map</a>
    <input type="password" name="password" autocomplete="current-password">
    <button type="button" :disabled="isFull" @click="left--">{{ left }} places</button>
  </form>
</template>
<style scoped>
button { color: #223 }
</style>
`,
    },
  },
  {
    name: 'Svelte',
    packages: ['svelte'],
    plugins: async () => (await importCompat<{ svelte: Make }>('@sveltejs/vite-plugin-svelte')).svelte(),
    files: {
      'index.html': html('', '<div id="app"></div>'),
      'src/main.ts': `import { mount } from 'svelte'\nimport Desk from './Desk.svelte'\nmount(Desk, { target: ${mount} })\n`,
      'src/Desk.svelte': `<script lang="ts">
  import { settings } from 'virtual:mappa/browser'
  let left = $state(settings.visitor.places)
</script>
<a href={settings.visitor.starMapUrl}>map</a>
<input type="password" name="password" autocomplete="current-password">
<button onclick={() => left--} disabled={left === 0}>{left} places</button>
<style>
  button { color: #223 }
</style>
`,
    },
  },
  {
    name: 'Preact',
    packages: ['preact'],
    plugins: () => pluginOf('@preact/preset-vite'),
    files: {
      'index.html': html('', '<div id="app"></div>', '/src/main.tsx'),
      'src/main.tsx': `import { render } from 'preact'
import { useState } from 'preact/hooks'
import { settings } from 'virtual:mappa/browser'
import './desk.css'
function Desk() {
  const [left, setLeft] = useState(settings.visitor.places)
  return <button class="night" onClick={() => setLeft(left - 1)}>{left} places <a href={settings.visitor.starMapUrl}>map</a></button>
}
render(<Desk />, ${mount})
`,
      'src/desk.css': STYLE,
    },
  },
  {
    name: 'Lit',
    packages: ['lit'],
    files: {
      'index.html': html('', '<visitor-desk></visitor-desk>'),
      'src/main.ts': `import { css, html, LitElement } from 'lit'
import { settings } from 'virtual:mappa/browser'
class VisitorDesk extends LitElement {
  static override styles = css\`button { color: #223 }\`
  static override properties = { left: { type: Number } }
  declare left: number
  constructor() { super(); this.left = settings.visitor.places }
  override render() { return html\`<a href=\${settings.visitor.starMapUrl}>map</a><input type="password" name="password"><button @click=\${() => { this.left -= 1 }}>\${this.left} places</button>\` }
}
customElements.define('visitor-desk', VisitorDesk)
`,
    },
  },
  {
    name: 'Solid',
    packages: ['solid-js'],
    plugins: () => pluginOf('vite-plugin-solid'),
    files: {
      'index.html': html('', '<div id="app"></div>', '/src/main.tsx'),
      'src/main.tsx': `import { createSignal } from 'solid-js'
import { render } from 'solid-js/web'
import { settings } from 'virtual:mappa/browser'
import './desk.css'
function Desk() {
  const [left, setLeft] = createSignal(settings.visitor.places)
  return <p class="night"><a href={settings.visitor.starMapUrl}>map</a><button onClick={() => setLeft(left() - 1)}>{left()} places</button></p>
}
render(() => <Desk />, ${mount})
`,
      'src/desk.css': STYLE,
    },
  },
  {
    name: 'TypeScript alone',
    files: {
      'index.html': html('', '<div id="app"></div>'),
      'src/main.ts': `import './desk.css'
import { settings } from 'virtual:mappa/browser'
import { Counter } from './counter.ts'
const counter = new Counter(settings.visitor.places)
${mount}.innerHTML = \`<a href="\${settings.visitor.starMapUrl}">map</a><button>\${counter.left} places</button>\`
${mount}.querySelector('button')!.addEventListener('click', () => counter.take())
`,
      'src/counter.ts':
        'export class Counter {\n  left: number\n  constructor(left: number) { this.left = left }\n  take() { this.left -= 1 }\n}\n',
      'src/desk.css': STYLE,
    },
  },
  {
    name: 'JavaScript alone',
    files: {
      'index.html': html('<link rel="stylesheet" href="/src/desk.css">', '<div id="app"></div>', '/src/main.js'),
      'src/main.js': `import { settings } from 'virtual:mappa/browser'
import { show } from './show.js'
show(document.querySelector('#app'), settings.visitor)
import('./later.js').then(({ later }) => later(settings.visitor.nights))
`,
      'src/show.js':
        'export const show = (place, { places, starMapUrl }) => { place.innerHTML = `<a href="${starMapUrl}">${places}</a>` }\n',
      'src/later.js': 'export const later = (nights) => console.log(nights.join())\n',
      'src/desk.css': STYLE,
    },
  },
]
