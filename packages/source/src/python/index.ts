import { types } from '../tree/grammar.ts'
import { lezerParser } from '../tree/lezer.ts'
import { readByTree } from '../tree/reading.ts'
import { readTextValue } from '../tree/text-value.ts'
import { pythonRewriting } from './rewriting.ts'

export const python = readByTree({
  name: 'Python',
  files: /\.pyi?$/,
  comment: /#/,
  reads: ['\\benviron(?:\\.get\\(|\\[)\\s*NAME', '\\bgetenv\\(\\s*NAME'],
  conditionals: { trailing: true },
  rewriting: pythonRewriting,
  grammar: {
    parse: lezerParser((require) => require('@lezer/python')),
    texts: types('String'),
    formats: types('FormatString'),
    numbers: types('Number'),
    joined: types('ContinuedString'),
    calls: types('ArgList'),
    named: types('AssignStatement DictionaryExpression ArgList ParamList NamedExpression'),
    last: types('AssignStatement ParamList'),
    operations: types('BinaryExpression ConditionalExpression'),
    through: types(
      'ArrayExpression TupleExpression SetExpression ParenthesizedExpression CallExpression MemberExpression AwaitExpression FormatReplacement ArrayComprehensionExpression',
    ),
    functions: types('FunctionDefinition'),
    bodies: types('Body'),
    returns: types('ReturnStatement YieldStatement'),
    noValues: types('ImportStatement TypeDef MatchClause'),
    valueOf: (raw) => readTextValue(raw, false),
  },
})
