import { types } from '../tree/grammar.ts'
import { lezerParser } from '../tree/lezer.ts'
import { readByTree } from '../tree/reading.ts'
import { readTextValue } from '../tree/text-value.ts'
import { phpRewriting } from './rewriting.ts'

export const php = readByTree({
  name: 'PHP',
  files: /\.(?:php\d?|phtml|inc)$/,
  comment: /\/\/|#/,
  reads: ['\\bgetenv\\(\\s*NAME(?:\\s*,\\s*(?:true|false))?', '\\$_(?:ENV|SERVER)\\[\\s*NAME', '\\benv\\(\\s*NAME'],
  conditionals: { ternary: true },
  rewriting: phpRewriting,
  grammar: {
    parse: lezerParser((require) => require('@lezer/php')),
    texts: types('String HeredocString'),
    formats: types(''),
    numbers: types('Integer'),
    joined: types(''),
    calls: types('ArgList'),
    named: types('VariableDeclarator AssignmentExpression Pair NamedArgument PropertyParameter Parameter'),
    last: types('VariableDeclarator AssignmentExpression PropertyParameter Parameter'),
    operations: types('BinaryExpression ConditionalExpression'),
    through: types(
      'ArrayExpression ParenthesizedExpression CallExpression NewExpression MemberExpression SubscriptExpression CastExpression Interpolation ValueList',
    ),
    functions: types('MethodDeclaration FunctionDefinition'),
    bodies: types('Block'),
    returns: types('ReturnStatement'),
    noValues: types('Attributes UseDeclaration IncludeExpression RequireExpression'),
    valueOf: (raw) => readTextValue(raw, raw.startsWith("'")),
  },
})
