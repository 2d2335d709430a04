import { t } from '@lingui/core/macro'
import { X } from 'lucide-react'
import { type KeyboardEvent, useRef, useState } from 'react'
import { fieldClass } from '../../../ui/Field'
import { type Angles, CannotWorkOut, workOut } from './calculate'

interface Line {
  typed: string
  found: number
}

const LINES = 30
const PLAIN = ['7', '8', '9', '÷', '4', '5', '6', '×', '1', '2', '3', '−', '0', '.', '^', '+']
const MORE = ['(', ')', '√(', 'ans']
const SCIENCE = [
  'sin(',
  'cos(',
  'tan(',
  'π',
  'asin(',
  'acos(',
  'atan(',
  'e',
  'ln(',
  'log(',
  'abs(',
  '²',
]
const SAID: Record<string, string> = {
  '÷': t`divided by`,
  '×': 'times',
  '−': 'minus',
  '+': 'plus',
  '^': t`to the power of`,
  '√(': t`square root of`,
  '²': 'squared',
  ans: t`last result`,
}

/** A line to type a sum on, and the lines worked out so far; a press on one puts it back. */
export default function Calculator({
  kinds,
  onClose,
}: {
  /** Those that are allowed; with both, one can be changed for the other. */
  kinds: ('calculator' | 'scientific')[]
  onClose: () => void
}) {
  const [chosen, setChosen] = useState(kinds[0])
  const kind = chosen === 'scientific' ? 'scientific' : 'basic'
  const [typed, setTyped] = useState('')
  const [lines, setLines] = useState<Line[]>([])
  const [says, setSays] = useState('')
  const [angles, setAngles] = useState<Angles>('degrees')
  const field = useRef<HTMLInputElement>(null)
  const back = useRef(0)

  const put = (text: string) => {
    const at = field.current?.selectionStart ?? typed.length
    const to = field.current?.selectionEnd ?? at
    setTyped(typed.slice(0, at) + text + typed.slice(to))
    setSays('')
    field.current?.focus()
    window.requestAnimationFrame(() =>
      field.current?.setSelectionRange(at + text.length, at + text.length),
    )
  }
  const work = () => {
    if (!typed.trim()) return
    try {
      const found = workOut(typed, kind, angles, lines[0]?.found ?? 0)
      setLines([{ typed, found }, ...lines].slice(0, LINES))
      setSays(t`${typed} is ${found}`)
      setTyped('')
      back.current = 0
    } catch (error) {
      if (!(error instanceof CannotWorkOut)) throw error
      setSays(error.message)
    }
  }
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'Enter') work()
    else if (event.key === 'Escape') onClose()
    else if (event.key === 'ArrowUp' && lines[back.current]) {
      setTyped(lines[back.current]?.typed ?? '')
      back.current += 1
    } else return
    event.preventDefault()
    event.stopPropagation()
  }
  return (
    <section
      aria-label={t`Calculator`}
      className="fixed right-3 bottom-[calc(var(--bar,7rem)+0.5rem)] left-3 z-20 max-h-[calc(100dvh-var(--bar,7rem)-1rem)] overflow-y-auto rounded-box border border-edge bg-sheet p-3 shadow-xl @3xl:left-auto @3xl:w-80"
    >
      <div className="flex items-center justify-between gap-2">
        <h3 className="text-base">{t`Calculator`}</h3>
        {kinds.length > 1 && (
          <button
            type="button"
            className="min-h-8 rounded px-2 text-sm text-gust hover:underline"
            onClick={() => setChosen(kind === 'basic' ? 'scientific' : 'calculator')}
          >
            {kind === 'basic' ? t`Change to scientific` : t`Change to basic`}
          </button>
        )}
        {kind === 'scientific' && (
          <button
            type="button"
            className="min-h-8 rounded px-2 text-sm text-gust hover:underline"
            aria-label={t`Angles in ${angles}, change`}
            onClick={() => setAngles(angles === 'degrees' ? 'radians' : 'degrees')}
          >
            {angles}
          </button>
        )}
        <button
          type="button"
          aria-label={t`Close the calculator`}
          className="rounded-lg p-1.5 hover:bg-sky"
          onClick={onClose}
        >
          <X size={18} aria-hidden="true" />
        </button>
      </div>
      <ol
        aria-label={t`Results`}
        className="flex max-h-28 flex-col-reverse overflow-y-auto text-right tabular-nums"
        // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls
        tabIndex={0}
      >
        {lines.map((line, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: lines have no identity but their place
          <li key={index}>
            <button
              type="button"
              className="rounded px-1 hover:bg-sky"
              aria-label={t`Use ${line.found}`}
              onClick={() => put(String(line.found))}
            >
              <span className="text-sm text-ink-2">{line.typed} =</span> {line.found}
            </button>
          </li>
        ))}
      </ol>
      <input
        ref={field}
        aria-label={t`Calculation`}
        className={`${fieldClass} mt-1 w-full text-right tabular-nums`}
        // biome-ignore lint/a11y/noAutofocus: it was opened to type on
        autoFocus
        autoComplete="off"
        maxLength={200}
        value={typed}
        onChange={(event) => {
          setTyped(event.target.value)
          setSays('')
        }}
        onKeyDown={onKeyDown}
      />
      <p aria-live="polite" className="min-h-6 text-right text-sm text-ink-2">
        {says}
      </p>
      {kind === 'scientific' && <Pad keys={SCIENCE} onPress={put} />}
      <Pad keys={[...PLAIN, ...MORE]} onPress={put} />
      <div className="mt-1.5 grid grid-cols-2 gap-1.5">
        <Press onClick={() => setTyped('')}>{t`Clear`}</Press>
        <Press strong onClick={work}>{t`Calculate`}</Press>
      </div>
    </section>
  )
}

function Pad({ keys, onPress }: { keys: string[]; onPress: (text: string) => void }) {
  return (
    <div className="mt-1.5 grid grid-cols-4 gap-1.5">
      {keys.map((key) => (
        <Press key={key} label={SAID[key]} onClick={() => onPress(key)}>
          {key.replace('(', key.length > 1 ? '' : '(')}
        </Press>
      ))}
    </div>
  )
}

function Press({
  label,
  strong,
  onClick,
  children,
}: {
  label?: string
  strong?: boolean
  onClick: () => void
  children: string
}) {
  return (
    <button
      type="button"
      aria-label={label}
      className={`min-h-9 rounded-lg ${strong ? 'bg-gust font-semibold text-on-gust' : 'bg-rail text-ink hover:bg-pale'}`}
      onClick={onClick}
    >
      {children}
    </button>
  )
}
