import type { Log, ReportingDescriptor, Result } from 'sarif'

/** Logs of SARIF of several packages as one, with one run and one list of rules. */
export function mergedLogs(logs: readonly Log[]): Log {
  const rules = new Map<string, ReportingDescriptor>()
  for (const { runs } of logs) for (const rule of runs[0]?.tool.driver.rules ?? []) rules.set(rule.id, rule)
  const ids = [...rules.keys()].sort()
  const bases = new Set(logs.map(getBase))
  const results = logs.flatMap((log) => {
    const own = log.runs[0]?.results ?? []
    return bases.size > 1 ? own.map((each) => withWholeAddress(each, getBase(log))) : own
  })
  const [first] = logs
  const [run] = first?.runs ?? []
  if (first === undefined || run === undefined) return { version: '2.1.0', runs: [] }
  const { driver } = run.tool
  return {
    ...first,
    runs: [
      {
        ...run,
        tool: { driver: { ...driver, rules: ids.map((id) => rules.get(id)!) } },
        results: results.map((each): Result => ({ ...each, ruleIndex: ids.indexOf(each.ruleId ?? '') })),
      },
    ],
  }
}

const getBase = ({ runs }: Log): string => runs[0]?.originalUriBaseIds?.['SRCROOT']?.uri ?? ''

/** Where packages have no directory in common that paths could be relative to, each file is told by its whole address. */
function withWholeAddress(result: Result, base: string): Result {
  const locations = (result.locations ?? []).map((location) => {
    const { physicalLocation } = location
    const { uri, uriBaseId } = physicalLocation?.artifactLocation ?? {}
    if (uri === undefined || uriBaseId === undefined) return location
    return {
      ...location,
      physicalLocation: { ...physicalLocation, artifactLocation: { uri: new URL(uri, base).href } },
    }
  })
  return { ...result, locations }
}
