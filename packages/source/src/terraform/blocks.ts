/** A block that a place is in: `backend "s3" {`, or the braces of a map, which have no kind. */
export interface Block {
  readonly kind: string
  readonly labels: readonly string[]
}

/** What is no structure: texts in quotes, comments, and texts of several lines. */
const TEXT = /"(?:[^"\\]|\\.)*"|#.*|\/\/.*|\/\*[\s\S]*?(?:\*\/|$)|<<-?([A-Za-z_]\w*)\n[\s\S]*?\n[ \t]*\1(?=\n|$)/g
const HEAD = /(?:^|\n)[ \t]*([A-Za-z_][\w-]*)((?:[ \t]+(?:"[^"\n]*"|[A-Za-z_][\w-]*))*)[ \t]*$/

/** The blocks that a place in a file of Terraform is in, outermost first. */
export function findBlocks(text: string, offset: number): readonly Block[] {
  const before = text.slice(0, offset)
  const blankOut = (found: string) => found.replace(/[^\n]/g, ' ')
  // Its labels are read from the text itself, where they are still there.
  const structure = before.replace(TEXT, blankOut)
  const open: Block[] = []
  for (let at = 0; at < structure.length; at++) {
    if (structure[at] === '{') open.push(findBlock(before.slice(0, at)))
    else if (structure[at] === '}') open.pop()
  }
  return open
}

function findBlock(head: string): Block {
  const [, kind = '', labels = ''] = HEAD.exec(head.slice(-400)) ?? []
  return { kind, labels: labels.match(/[\w-]+/g) ?? [] }
}
