import { t } from '@lingui/core/macro'
import type { Question } from '../api/client'
import { AloudSpeed } from '../player/AloudSpeed'
import type { useAloud } from '../player/aloud'
import { BottomBar } from '../ui/BottomBar'
import { KeyCap } from '../ui/Button'
import { setPreferences, TEXT_SIZES, usePreferences } from '../ui/preferences'
import type { RunActions } from './useRun'

/** What a run opens beside or over its question. */
export type Opened = 'keys' | 'rail' | 'study' | 'why' | 'ask'

interface Props {
  question: Question
  /** Whether what came of an answer is shown, with its own way to new numbers. */
  answered: boolean
  actions: RunActions
  onOpen: (what: Opened) => void
  onReset: () => void
  /** Whether the working area is open, and how it is opened and closed. */
  working: boolean
  onWorking: () => void
  aloud: ReturnType<typeof useAloud>
  onAloud: () => void
}

const tool =
  'inline-flex min-h-11 items-center gap-2 rounded-md px-2 text-ink-2 hover:text-ink disabled:opacity-55'

/** A tool's key; left out where there is hardly room and hardly a keyboard. */
function StripKey({ children }: { children: string }) {
  return (
    <span className="hidden @3xl:inline">
      <KeyCap>{children}</KeyCap>
    </span>
  )
}

/** Tools at the bottom, each with its key. Help stands in the rail where there is one. */
export function Strip(props: Props) {
  const { question, answered, actions, onOpen, onReset, working, onWorking, aloud, onAloud } = props
  const { textSize } = usePreferences()
  const bigger = TEXT_SIZES[(TEXT_SIZES.indexOf(textSize) + 1) % TEXT_SIZES.length] ?? 100
  const { closed } = question
  const can = (what: Question['can'][number]) => question.can.includes(what)
  return (
    <BottomBar
      role="toolbar"
      aria-label={t`Tools`}
      className="flex flex-wrap items-center gap-x-1 bg-sheet px-3 py-1 @3xl:gap-x-4 @3xl:px-9"
    >
      {can('swap') && question.swap && (
        <button
          type="button"
          className={tool}
          onClick={actions.swap}
          disabled={actions.busy || closed}
        >
          {t`Swap to ${question.swap.title.toLowerCase()}`} <StripKey>S</StripKey>
        </button>
      )}
      {can('hint') && (
        <button
          type="button"
          className={`${tool} @5xl:hidden`}
          onClick={actions.hint}
          disabled={question.hints_left === 0 || actions.busy}
        >
          {t`Hint`} <StripKey>H</StripKey>
        </button>
      )}
      {can('fresh') && !answered && (
        <button type="button" className={tool} onClick={actions.fresh} disabled={actions.busy}>
          {t`New numbers`} <StripKey>N</StripKey>
        </button>
      )}
      {can('read') && (
        <button type="button" className={`${tool} @5xl:hidden`} onClick={() => onOpen('study')}>
          {t`Read`} <StripKey>R</StripKey>
        </button>
      )}
      <button type="button" className={`${tool} @5xl:hidden`} onClick={() => onOpen('rail')}>
        {t`Level and help`} <StripKey>V</StripKey>
      </button>
      <button type="button" className={tool} onClick={onReset} disabled={closed || actions.busy}>
        {t`Reset`} <StripKey>X</StripKey>
      </button>
      {!closed && (
        <button type="button" className={tool} aria-expanded={working} onClick={onWorking}>
          {t`Working`} <StripKey>A</StripKey>
        </button>
      )}
      <button type="button" className={tool} aria-pressed={aloud.reading} onClick={onAloud}>
        {aloud.reading ? t`Stop reading` : t`Read aloud`} <StripKey>O</StripKey>
      </button>
      <AloudSpeed aloud={aloud} />
      <button type="button" className={tool} onClick={() => onOpen('ask')}>
        {t`Ask or report`} <StripKey>Q</StripKey>
      </button>
      <span className="ml-auto flex gap-x-3">
        <button
          type="button"
          className={tool}
          aria-label={t`Text size ${textSize} per cent, change to ${bigger}`}
          onClick={() => setPreferences({ textSize: bigger })}
        >{t`Aa`}</button>
        <button type="button" className={tool} onClick={() => onOpen('keys')}>
          {t`Keys`} <StripKey>?</StripKey>
        </button>
      </span>
    </BottomBar>
  )
}
