import type { RuleView } from '../../views/rules.ts'

const SIGNS = { passed: '✓', failed: '✗', 'not checked': '–' } as const

/** The rules of a setting, and which of them its value keeps. */
export function Rules({ rules }: { readonly rules: readonly RuleView[] }) {
  return (
    <section>
      <h3>Rules</h3>
      <ul className="rules">
        {rules.map(({ text, state }) => (
          <li key={text} className={`rule rule--${state.replace(' ', '-')}`}>
            <span aria-hidden="true">{SIGNS[state]}</span> {text}
            <span className="hidden">, {state}</span>
          </li>
        ))}
      </ul>
    </section>
  )
}
