import type { ProblemView } from '../../views/problem.ts'

/** A problem with its place, its sentence, the line in question and what to do about it. */
export function ProblemItem({ problem }: { readonly problem: ProblemView }) {
  const { severity, message, hint, place, codeFrame } = problem
  return (
    <li className={`problem problem--${severity}`}>
      <p className="problem__message">
        <span className="problem__severity">{severity}</span> {message}
      </p>
      {codeFrame === null ? null : <pre className="code">{codeFrame.text}</pre>}
      <p className="problem__hint">
        {hint}
        {place === null ? null : <span className="problem__place"> {place}</span>}
      </p>
    </li>
  )
}
