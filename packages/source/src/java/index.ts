import { types } from '../tree/grammar.ts'
import { lezerParser } from '../tree/lezer.ts'
import { readByTree } from '../tree/reading.ts'
import { readTextValue } from '../tree/text-value.ts'
import { javaRewriting } from './rewriting.ts'

export const java = readByTree({
  name: 'Java',
  files: /\.java$/,
  comment: /\/\//,
  reads: ['\\bgetenv\\(\\s*NAME', '\\bgetenv\\(\\)\\.get(?:OrDefault)?\\(\\s*NAME'],
  conditionals: { ternary: true },
  rewriting: javaRewriting,
  grammar: {
    parse: lezerParser((require) => require('@lezer/java')),
    texts: types('StringLiteral TextBlock'),
    formats: types(''),
    numbers: types('IntegerLiteral'),
    joined: types(''),
    calls: types('ArgumentList AnnotationArgumentList'),
    named: types('VariableDeclarator AssignmentExpression ElementValuePair'),
    last: types('VariableDeclarator AssignmentExpression ElementValuePair'),
    operations: types('BinaryExpression TernaryExpression'),
    through: types(
      'MethodInvocation ObjectCreationExpression ArrayInitializer ArrayCreationExpression ParenthesizedExpression CastExpression LambdaExpression UnaryExpression',
    ),
    functions: types('MethodDeclaration'),
    bodies: types('Block'),
    returns: types('ReturnStatement'),
    noValues: types('ImportDeclaration PackageDeclaration SwitchLabel'),
    valueOf: (raw) => readTextValue(raw, false),
  },
})
