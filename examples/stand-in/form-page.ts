import type { KeptStage } from './hosting.ts'

/** The page on which a person sees what was sent: names and times, and never a value. */
export function formPage(stages: ReadonlyMap<string, KeptStage>): string {
  const parts = [...stages].map(([stage, { variables, revision }]) => {
    const rows = [...variables].map(
      ([name, { at, by }]) =>
        `<tr><th scope="row">${escaped(name)}</th><td><input type="password" value="••••••••" disabled aria-label="value of ${escaped(name)}"></td><td>${escaped(at.slice(0, 19).replace('T', ' '))}</td><td>${escaped(by ?? '–')}</td></tr>`,
    )
    const body =
      rows.length === 0
        ? '<p>No variables yet.</p>'
        : `<table><tr><th>Name</th><th>Value</th><th>Set (UTC)</th><th>By</th></tr>${rows.join('')}</table>`
    return `<section><h2>${escaped(stage)} <small>revision ${revision}</small></h2>${body}</section>`
  })
  return `<!doctype html>
<html lang="en"><meta charset="utf-8"><title>dome-api: environment</title>
<style>
body { font: 16px/1.5 system-ui, sans-serif; margin: 2rem auto; max-width: 60rem; padding: 0 1rem; color: #1d2433 }
section { border: 1px solid #ccd3e0; border-radius: .5rem; padding: .5rem 1.25rem 1rem; margin: 1rem 0 }
h2 { font-size: 1.1rem } small { color: #5a6478; font-weight: normal }
table { border-collapse: collapse; width: 100% } th, td { text-align: left; padding: .3rem .75rem .3rem 0; border-top: 1px solid #e4e8f0 }
tr:first-child > * { border: 0; color: #5a6478; font-weight: normal } input { border: 1px solid #ccd3e0; border-radius: .25rem; padding: .2rem .4rem }
</style>
<h1>dome-api: environment</h1>
<p>A simulated hosting service of the observatory. Values are kept, and shown to nobody.</p>
${parts.join('\n')}
</html>
`
}

function escaped(text: string): string {
  return text.replace(/[&<>"]/g, (each) => `&#${each.charCodeAt(0)};`)
}
