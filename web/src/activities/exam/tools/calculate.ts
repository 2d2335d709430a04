import { t } from '@lingui/core/macro'
import type { FactoryFunctionMap } from 'mathjs'
import {
  addDependencies,
  create,
  divideDependencies,
  type MathNode,
  multiplyDependencies,
  parseDependencies,
  powDependencies,
  subtractDependencies,
  unaryMinusDependencies,
  unaryPlusDependencies,
} from 'mathjs/number'

// Its types say that each of these may be missing.
const math = create({
  addDependencies,
  divideDependencies,
  multiplyDependencies,
  parseDependencies,
  powDependencies,
  subtractDependencies,
  unaryMinusDependencies,
  unaryPlusDependencies,
} as Record<string, FactoryFunctionMap>)

export type Angles = 'degrees' | 'radians'

const OPERATIONS = ['add', 'subtract', 'multiply', 'divide', 'unaryMinus', 'unaryPlus', 'pow']
const BASIC = { sqrt: Math.sqrt }
const BASIC_NAMES = ['sqrt', 'ans']
const CONSTANTS = { pi: Math.PI, e: Math.E }
const DIGITS = 12

function scientific(angles: Angles) {
  const unit = angles === 'degrees' ? Math.PI / 180 : 1
  return {
    ...CONSTANTS,
    sin: (x: number) => Math.sin(x * unit),
    cos: (x: number) => Math.cos(x * unit),
    tan: (x: number) => Math.tan(x * unit),
    asin: (x: number) => Math.asin(x) / unit,
    acos: (x: number) => Math.acos(x) / unit,
    atan: (x: number) => Math.atan(x) / unit,
    ln: Math.log,
    log: Math.log10,
    abs: Math.abs,
  }
}

/** Words that a calculator knows; a basic one only the root and the last result. */
export const FUNCTIONS = Object.keys(scientific('degrees'))

const SIGNS: [RegExp, string][] = [
  [/[×·]/g, '*'],
  [/[÷:]/g, '/'],
  [/−/g, '-'],
  [/π/g, 'pi'],
  [/√/g, 'sqrt'],
  [/²/g, '^2'],
]

export class CannotWorkOut extends Error {}

function refuseUnknown(node: MathNode, known: string[]) {
  node.traverse((one) => {
    const it = one as MathNode & { fn?: unknown; name?: string; value?: unknown }
    if (one.type === 'OperatorNode' && OPERATIONS.includes(String(it.fn))) return
    if (one.type === 'ConstantNode' && typeof it.value === 'number') return
    if (one.type === 'ParenthesisNode' || one.type === 'FunctionNode') return
    if (one.type === 'SymbolNode' && known.includes(it.name ?? '')) return
    if (one.type === 'SymbolNode') throw new CannotWorkOut(t`“${it.name ?? ''}” is not known here.`)
    throw new CannotWorkOut(t`That cannot be worked out.`)
  })
}

/** What a typed sum comes to. ans: the result before. Raises CannotWorkOut with the reason. */
export function workOut(typed: string, kind: 'basic' | 'scientific', angles: Angles, ans: number) {
  const signs = SIGNS.reduce((so, [sign, word]) => so.replace(sign, word), typed.trim())
  if (/\d:\d\d/.test(typed))
    throw new CannotWorkOut(t`This works with numbers, not times. For 12:30 type 12 × 60 + 30.`)
  const text = signs.replace(/(\d),(\d)/g, '$1.$2')
  if (/(^|[^\d.])[1-9]\d{0,2}(,\d{3})+(?!\d)/.test(signs))
    throw new CannotWorkOut(t`Leave out the commas between thousands.`)
  let node: MathNode
  try {
    node = math.parse(text)
  } catch {
    throw new CannotWorkOut(t`Something is missing or too much in it.`)
  }
  const words = kind === 'basic' ? BASIC : { ...BASIC, ...scientific(angles) }
  refuseUnknown(node, kind === 'basic' ? BASIC_NAMES : [...BASIC_NAMES, ...FUNCTIONS])
  const found: unknown = node.compile().evaluate({ ...words, ans })
  if (typeof found !== 'number') throw new CannotWorkOut(t`Something is missing or too much in it.`)
  if (!Number.isFinite(found)) throw new CannotWorkOut(t`There is no such number.`)
  return Number(found.toPrecision(DIGITS))
}
