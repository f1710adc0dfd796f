/** A node of a syntax tree, whatever parser made it. */
export interface TreeNode {
  /** What the grammar calls it. */
  readonly type: string
  /** Offsets in the text, from 0; `end` is behind it. */
  readonly start: number
  readonly end: number
  readonly parent: TreeNode | null
  /** Its place among the children of its parent, from 0. */
  readonly index: number
  readonly children: readonly TreeNode[]
}

/** A node while its children are still added. */
export interface GrowingNode extends TreeNode {
  end: number
  readonly children: TreeNode[]
}

/**
 * Adds a node below another one.
 *
 * @returns the new node, to be added to in turn
 * @example
 * const root = growTree('File', 0, 10)
 * addNode(root, 'String', 2, 8).parent === root // true
 */
export function addNode(parent: GrowingNode, type: string, start: number, end: number): GrowingNode {
  const node: GrowingNode = { type, start, end, parent, index: parent.children.length, children: [] }
  parent.children.push(node)
  return node
}

/** Begins a tree. */
export function growTree(type: string, start: number, end: number): GrowingNode {
  return { type, start, end, parent: null, index: 0, children: [] }
}

/** The sibling so many places further; `undefined` if there is none. */
export function findSibling(node: TreeNode, by: number): TreeNode | undefined {
  return node.parent?.children[node.index + by]
}

/** Every node of a tree, a parent before its children. */
export function* walkNodes(tree: TreeNode): Generator<TreeNode> {
  const waiting: TreeNode[] = [tree]
  for (let node = waiting.pop(); node !== undefined; node = waiting.pop()) {
    yield node
    for (let at = node.children.length - 1; at >= 0; at--) waiting.push(node.children[at]!)
  }
}

/** The nearest node above another one that is of one of some types. */
export function findAncestor(node: TreeNode, types: ReadonlySet<string>): TreeNode | null {
  for (let at = node.parent; at !== null; at = at.parent) if (types.has(at.type)) return at
  return null
}

/** The root of the tree that a node is in. */
export function findTop(node: TreeNode): TreeNode {
  let top = node
  while (top.parent !== null) top = top.parent
  return top
}
