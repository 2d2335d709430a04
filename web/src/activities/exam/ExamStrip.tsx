import { t } from '@lingui/core/macro'
import { Flag } from 'lucide-react'
import type { ReactNode } from 'react'
import type { Schemas } from '../../api/client'
import { AloudSpeed } from '../../player/AloudSpeed'
import type { useAloud } from '../../player/aloud'
import { BottomBar } from '../../ui/BottomBar'
import { Button, KeyCap } from '../../ui/Button'
import { setPreferences, TEXT_SIZES, usePreferences } from '../../ui/preferences'
import type { SoFar } from './queries'

/** What a test opens over its question. */
export type Opened = 'keys' | 'list' | 'leaving'

/** Which tools lie on the page. */
export interface Shown {
  calculator: boolean
  ruler: boolean
  protractor: boolean
}

interface Props {
  has: (tool: Schemas['Tool']) => boolean
  data: SoFar
  canChange: boolean
  striking: boolean
  noting: boolean
  working: boolean
  marking: boolean
  shown: Shown
  aloud: ReturnType<typeof useAloud>
  canUndo: boolean
  canRedo: boolean
  onFlag: () => void
  onStrike: () => void
  onNote: () => void
  onWorking: () => void
  onMark: () => void
  onShow: (what: keyof Shown) => void
  onAloud: () => void
  onUndo: () => void
  onRedo: () => void
  onClear: () => void
  onOpen: (what: Opened) => void
  onBack?: () => void
  forward: { label: string; act: () => void }
}

export const LYING: {
  what: keyof Shown
  words: string
  hint: string
  needs: Schemas['Tool'][]
}[] = [
  { what: 'calculator', words: t`Calculator`, hint: 'K', needs: ['calculator', 'scientific'] },
  { what: 'ruler', words: t`Ruler`, hint: 'R', needs: ['ruler'] },
  { what: 'protractor', words: t`Protractor`, hint: 'P', needs: ['protractor'] },
]

/** Tools of a test at the bottom, each with its key, and the way back and on. */
export function ExamStrip(props: Props) {
  const { has, data, canChange, aloud, onBack, forward } = props
  const { textSize } = usePreferences()
  const bigger = TEXT_SIZES[(TEXT_SIZES.indexOf(textSize) + 1) % TEXT_SIZES.length] ?? 100
  return (
    <BottomBar className="flex flex-wrap @5xl:col-span-2 items-center gap-x-4 gap-y-1 bg-sheet px-3 py-1.5 @3xl:px-9">
      <div
        role="toolbar"
        aria-label={t`Tools`}
        className="flex min-w-0 flex-1 basis-80 flex-wrap items-center gap-x-1"
      >
        <span className="@5xl:hidden">
          <Tool hint="V" onClick={() => props.onOpen('list')}>{t`Questions`}</Tool>
        </span>
        <Tool hint="F" on={data.flagged ?? false} disabled={!canChange} onClick={props.onFlag}>
          <Flag size={16} aria-hidden="true" className={data.flagged ? 'fill-sun' : ''} />
          {t`Flag`}
        </Tool>
        {has('notes') && <Tool hint="N" on={props.noting} onClick={props.onNote}>{t`Note`}</Tool>}
        {has('strike_out') && (
          <Tool hint="S" on={props.striking} onClick={props.onStrike}>{t`Cross out`}</Tool>
        )}
        {has('working') && (
          <Tool hint="A" on={props.working} onClick={props.onWorking}>{t`Working`}</Tool>
        )}
        {has('marker') && (
          <Tool
            hint="M"
            on={props.marking}
            disabled={!canChange}
            onClick={props.onMark}
          >{t`Marker`}</Tool>
        )}
        {LYING.filter(({ needs }) => needs.some(has)).map(({ what, words, hint }) => (
          <Tool key={what} hint={hint} on={props.shown[what]} onClick={() => props.onShow(what)}>
            {words}
          </Tool>
        ))}
        {has('aloud') && (
          <Tool hint="O" on={aloud.reading} onClick={props.onAloud}>
            {aloud.reading ? t`Stop reading` : t`Read aloud`}
          </Tool>
        )}
        <AloudSpeed aloud={aloud} />
        <Tool
          hint="U"
          disabled={!canChange || !props.canUndo}
          onClick={props.onUndo}
        >{t`Undo`}</Tool>
        <Tool
          hint="I"
          disabled={!canChange || !props.canRedo}
          onClick={props.onRedo}
        >{t`Redo`}</Tool>
        <Tool hint="X" disabled={!canChange} onClick={props.onClear}>{t`Clear`}</Tool>
        <Tool
          label={t`Text size ${textSize} per cent, change to ${bigger}`}
          onClick={() => setPreferences({ textSize: bigger })}
        >{t`Aa`}</Tool>
        <Tool hint="?" onClick={() => props.onOpen('keys')}>{t`Keys`}</Tool>
      </div>
      <div className="ml-auto flex gap-2">
        {onBack && <Button hint="[" onClick={onBack}>{t`Back`}</Button>}
        <Button kind="strong" hint="]" onClick={forward.act}>
          {forward.label}
        </Button>
      </div>
    </BottomBar>
  )
}

function Tool({
  hint,
  on,
  label,
  disabled,
  onClick,
  children,
}: {
  hint?: string
  on?: boolean
  label?: string
  disabled?: boolean
  onClick: () => void
  children: ReactNode
}) {
  return (
    <button
      type="button"
      aria-pressed={on}
      aria-label={label}
      disabled={disabled}
      onClick={onClick}
      className={`inline-flex min-h-11 items-center gap-1.5 rounded-md px-1.5 hover:text-ink disabled:opacity-55 ${on ? 'font-semibold text-ink underline underline-offset-4' : 'text-ink-2'}`}
    >
      {children}
      {hint && (
        <span className="hidden @3xl:inline">
          <KeyCap>{hint}</KeyCap>
        </span>
      )}
    </button>
  )
}
