import { types } from '../tree/grammar.ts'
import { lezerParser } from '../tree/lezer.ts'
import { readByTree } from '../tree/reading.ts'
import { readTextValue } from '../tree/text-value.ts'
import { rustRewriting } from './rewriting.ts'

export const rust = readByTree({
  name: 'Rust',
  files: /\.rs$/,
  comment: /\/\//,
  reads: ['\\benv::var(?:_os)?\\(\\s*NAME', '\\b(?:option_)?env!\\(\\s*NAME'],
  conditionals: { blocks: true },
  rewriting: rustRewriting,
  grammar: {
    parse: lezerParser((require) => require('@lezer/rust')),
    texts: types('String RawString'),
    formats: types(''),
    numbers: types('Integer'),
    joined: types(''),
    calls: types('ArgList ParenthesizedTokens'),
    named: types('ConstItem StaticItem LetDeclaration AssignmentExpression FieldInitializer'),
    last: types('ConstItem StaticItem LetDeclaration AssignmentExpression'),
    operations: types('BinaryExpression'),
    through: types(
      'FieldInitializerList StructExpression CallExpression FieldExpression ReferenceExpression ArrayExpression TupleExpression ClosureExpression TryExpression AwaitExpression MacroInvocation UnaryExpression ParenthesizedExpression IfExpression',
    ),
    functions: types('FunctionItem'),
    bodies: types('Block'),
    returns: types('ReturnExpression ExpressionStatement IfExpression String RawString Integer'),
    noValues: types('UseDeclaration Attribute InnerAttribute ExternCrateDeclaration LiteralPattern'),
    valueOf: (raw) => readTextValue(raw, false),
  },
})
