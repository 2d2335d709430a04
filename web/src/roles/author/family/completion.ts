import type { Completion, CompletionContext, CompletionResult } from '@codemirror/autocomplete'
import whole from '../../../../../packs/family.schema.json'

interface Schema {
  $ref?: string
  description?: string
  properties?: Record<string, Schema>
  items?: Schema
  anyOf?: Schema[]
  oneOf?: Schema[]
  enum?: string[]
  const?: string
  patternProperties?: Record<string, Schema>
}

const root = whole as unknown as Schema & { $defs: Record<string, Schema> }

/** What a place of the schema may be, one for each form it can take. */
function forms(schema: Schema | undefined): Schema[] {
  if (!schema) return []
  if (schema.$ref) return forms(root.$defs[schema.$ref.split('/').at(-1) ?? ''])
  return [schema, ...(schema.anyOf ?? []), ...(schema.oneOf ?? [])].flatMap((one) =>
    one === schema ? [one] : forms(one),
  )
}

const KEY = /^(\s*)((?:- +)*)([\w-]+):/

/** The keys that a line stands within, the outermost first; items of lists as “-”. */
export function within(lines: string[], indent: number): string[] {
  const path: string[] = []
  let inner = indent
  for (const line of [...lines].reverse()) {
    const found = KEY.exec(line)
    const dash = /^(\s*)- /.exec(line)
    const own = found ? (found[1] ?? '').length + (found[2] ?? '').length : 0
    if (dash && (dash[1] ?? '').length < inner && path[0] !== '-') {
      path.unshift('-')
      inner = (dash[1] ?? '').length + 1
    }
    if (found && !dash && own < inner) {
      path.unshift(found[3] ?? '')
      inner = own
    }
    if (inner === 0) break
  }
  return path
}

/** What the fields are that the schema knows at a place. */
export function fieldsAt(path: string[]): Record<string, Schema> {
  let here = forms(root)
  for (const step of path)
    here = here
      .flatMap((one) =>
        step === '-'
          ? [one.items]
          : [one.properties?.[step] ?? Object.values(one.patternProperties ?? {})[0]],
      )
      .flatMap(forms)
  return Object.assign({}, ...here.map(({ properties }) => properties ?? {}))
}

const valuesOf = (schema: Schema | undefined): string[] =>
  forms(schema).flatMap((one) => [...(one.enum ?? []), ...(one.const ? [one.const] : [])])

/** Offers the fields that may stand where somebody types, and the values of those that have few. */
export function fieldsHere(context: CompletionContext): CompletionResult | null {
  const line = context.state.doc.lineAt(context.pos)
  const before = line.text.slice(0, context.pos - line.from)
  const lines = context.state.doc.sliceString(0, line.from).split('\n').slice(0, -1)
  const value = /^(\s*)((?:- +)*)([\w-]+): *([\w-]*)$/.exec(before)
  if (value) {
    const indent = (value[1] ?? '').length + (value[2] ?? '').length
    const field = fieldsAt(pathAt(lines, value[1] ?? '', value[2] ?? '', indent))[value[3] ?? '']
    const options = valuesOf(field).map((label): Completion => ({ label, type: 'constant' }))
    return options.length ? { from: context.pos - (value[4] ?? '').length, options } : null
  }
  const key = /^(\s*)((?:- +)*)([\w-]*)$/.exec(before)
  if (!key || (!context.explicit && !key[3])) return null
  const indent = (key[1] ?? '').length + (key[2] ?? '').length
  const fields = fieldsAt(pathAt(lines, key[1] ?? '', key[2] ?? '', indent))
  const options = Object.entries(fields).map(
    ([label, { description }]): Completion => ({
      label,
      type: 'property',
      apply: `${label}: `,
      ...(description ? { detail: description } : {}),
    }),
  )
  return options.length ? { from: context.pos - (key[3] ?? '').length, options } : null
}

const pathAt = (lines: string[], space: string, dash: string, indent: number) =>
  dash ? [...within(lines, space.length + 1), '-'] : within(lines, indent)
