import type { Declaration, Definition } from '../definition/definition.ts'
import { listLayerFiles } from '../layers/order.ts'
import { fill } from '../problems/catalogue/entry.ts'
import { WHERE_TO_PUT } from '../problems/catalogue/values.ts'

/** The description without a full stop, to be put into a sentence. */
export function descriptionClause({ description }: Declaration): string {
  return description.trim().replace(/\.$/, '')
}

/** Says what to do about a value that is not there. */
export type WhereToPut = (declaration: Declaration) => string

/**
 * What to do about a value that is not there: which files can have it.
 *
 * @param definition says which layer files packages share, and whether one program is asked about
 */
export function describeTarget(stage: string, { layersFrom, program: asked }: Definition): WhereToPut {
  const [all, , ofStage, ofStageLocal] = listLayerFiles(stage)
  const directory = layersFrom.at(-1)
  const withShared = (file: string) =>
    directory === undefined ? file : fill(WHERE_TO_PUT.shared, { file, below: `${directory}/${file}` })
  const files = { shared: all, file: withShared(ofStage), local: withShared(ofStageLocal) }
  return ({ name, secret, programs }) => {
    const put = fill(secret ? WHERE_TO_PUT.secret : WHERE_TO_PUT.other, { name, ...files })
    return programs === null || asked !== null
      ? put
      : `${put} ${fill(WHERE_TO_PUT.programs, { programs: programs.join(' and ') })}`
  }
}
