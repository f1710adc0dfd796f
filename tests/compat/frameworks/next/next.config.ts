import { publicReplacements } from 'mappa-settings/bundler'

const define = publicReplacements(import.meta.dirname, { objects: ['process.env'], quoted: false })

export default { compiler: { define } }
