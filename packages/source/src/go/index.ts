import { types } from '../tree/grammar.ts'
import { lezerParser } from '../tree/lezer.ts'
import { readByTree } from '../tree/reading.ts'
import { readTextValue } from '../tree/text-value.ts'
import { goRewriting } from './rewriting.ts'

export const go = readByTree({
  name: 'Go',
  files: /\.go$/,
  comment: /\/\//,
  reads: ['\\bos\\.(?:Getenv|LookupEnv)\\(\\s*NAME', '\\bsyscall\\.Getenv\\(\\s*NAME'],
  rewriting: goRewriting,
  grammar: {
    parse: lezerParser((require) => require('@lezer/go')),
    texts: types('String'),
    formats: types(''),
    numbers: types('Number'),
    joined: types(''),
    calls: types('Arguments'),
    named: types('ConstSpec VarSpec VarDecl Assignment Element'),
    last: types('ConstSpec VarSpec VarDecl Assignment'),
    operations: types('BinaryExp'),
    through: types('LiteralValue TypedLiteral UnaryExp CallExpr Conversion ParenthesizedExpr SelectorExpr Element'),
    functions: types('FunctionDecl MethodDecl'),
    bodies: types('Block'),
    returns: types('ReturnStatement'),
    noValues: types('ImportDecl FieldDecl Key'),
    valueOf: (raw) => readTextValue(raw, false),
  },
})
