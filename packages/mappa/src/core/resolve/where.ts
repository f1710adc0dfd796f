import type { Declaration } from '../definition/definition.ts'
import { layerFiles } from '../layers/order.ts'
import { fill } from '../problems/catalogue/entry.ts'
import { WHERE_TO_PUT } from '../problems/catalogue/values.ts'

/** The description without a full stop, to be put into a sentence. */
export function phrase({ description }: Declaration): string {
  return description.trim().replace(/\.$/, '')
}

/** What to do about a value that is not there: which files can have it. */
export function whereToPut({ name, secret }: Declaration, stage: string): string {
  const [shared, , file, local] = layerFiles(stage)
  return fill(secret ? WHERE_TO_PUT.secret : WHERE_TO_PUT.other, { name, shared, file, local })
}
