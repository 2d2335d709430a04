/**
 * Fails on a sentence that a person can read and that a translator could not find: text in JSX, an
 * attribute, or a string in code that is not tagged with `t`. What is a sentence is a guess: it has
 * a space between words or ends like one. Names of classes, addresses and keys are not.
 */
import { readdirSync, readFileSync } from 'node:fs'
import { parse, traverse } from '@babel/core'

const CODE = new Set(
  (
    'className d viewBox points transform style stroke fill type role kind id key to path purpose ' +
    'autoComplete inputMode rel target href src accept htmlFor media fieldWidth ' +
    'fontFamily strokeDasharray aria-live aria-controls aria-describedby aria-labelledby'
  ).split(' '),
)
const CLASSES =
  /(^|\s)(flex|grid|block|inline|hidden|absolute|relative|sticky|sr-only|underline|truncate|border|rounded|shrink|grow)(\s|$|-)|(^|\s)[a-z:@-]+-(\[|\d|px|auto|full|none|ink|sheet|gust|edge|line|deep|part|wrong|correct|sun|rail|sky|sm|xs|lg|xl|2xl|semibold|normal|left|right|center|nums)/
const CALLS = new Set(
  (
    'GET POST PUT PATCH DELETE includes startsWith endsWith split join replace replaceAll closest ' +
    'querySelector querySelectorAll matches matchMedia setAttribute addEventListener createElement open counted'
  ).split(' '),
)
const NOT_INTERFACE = /\.test\.|\.d\.ts|SampleSheets/

/** Whether a string reads like something said to a person. */
function isSentence(text) {
  const words = text.trim()
  if (!/[A-Za-z]{2}/.test(words) || CLASSES.test(words)) return false
  if (/^(https?:|\/|\.|#|\[|@|--|var\(|calc\(|url\(|data:)|\d+px|\brem\b|%\)/.test(words)) return false
  if (/^[a-z_]+([-_.:/][a-z0-9_]+)*$/.test(words)) return false
  return /[A-Za-z,]\s+[A-Za-z{]/.test(words) || /[a-z][.?!…’]$/.test(words)
}

/** Whether a string stands where only code reads it. */
function isForCode(path) {
  const { parent, node } = path
  if (parent.type === 'TaggedTemplateExpression') return true
  if (parent.type === 'ObjectProperty' && parent.key === node) return true
  if (parent.type === 'BinaryExpression' && /^[=!]==?$/.test(parent.operator)) return true
  if (parent.type === 'NewExpression' && !/.Error|Unreachable|Cannot/.test(parent.callee.name)) return true
  if (parent.type === 'CallExpression')
    return CALLS.has(parent.callee.property?.name ?? parent.callee.name)
  const around = path.findParent(
    ({ node: one }) =>
      one.type === 'ImportDeclaration' ||
      one.type.startsWith('TSLiteral') ||
      (one.type === 'JSXAttribute' &&
        (CODE.has(one.name.name) || /ClassName$|^data-/.test(one.name.name))),
  )
  return around !== null
}

const found = []
for (const name of readdirSync('src', { recursive: true })) {
  if (!/\.tsx?$/.test(name) || NOT_INTERFACE.test(name)) continue
  const file = `src/${name}`
  const tree = parse(readFileSync(file, 'utf8'), {
    filename: file,
    configFile: false,
    parserOpts: { plugins: ['typescript', 'jsx'] },
  })
  const add = (node, text) => found.push(`${file}:${node.loc.start.line}: ${text.trim()}`)
  traverse(tree, {
    JSXText({ node }) {
      if (/[A-Za-z]{2}/.test(node.value.replace(/&\w+;/g, ''))) add(node, node.value)
    },
    StringLiteral(path) {
      if (isSentence(path.node.value) && !isForCode(path)) add(path.node, path.node.value)
    },
    TemplateLiteral(path) {
      const text = path.node.quasis.map((one) => one.value.cooked).join('{}')
      if (isSentence(text) && !isForCode(path)) add(path.node, text)
    },
  })
}
if (found.length > 0) {
  console.error(`Not tagged with t, so nobody could translate them:\n${found.join('\n')}`)
  process.exit(1)
}
