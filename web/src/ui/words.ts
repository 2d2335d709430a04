import { t } from '@lingui/core/macro'
import { withoutComma } from './dates'

const clockFormat = new Intl.DateTimeFormat('en-GB', {
  hour: '2-digit',
  minute: '2-digit',
  second: '2-digit',
})
const dayFormat = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short' })
const longDayFormat = new Intl.DateTimeFormat('en-GB', {
  weekday: 'long',
  day: 'numeric',
  month: 'long',
})

const hourFormat = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' })

/** A time of the day without its seconds. */
export const hour = (iso: string) => hourFormat.format(new Date(iso))

/** 09:42:07 */
export const clockTime = (iso: string) => clockFormat.format(new Date(iso))

/** today, yesterday, 14 Nov, or 14 Nov 2025 */
export function day(iso: string): string {
  const date = new Date(iso)
  const midnight = (d: Date) => new Date(d.getFullYear(), d.getMonth(), d.getDate()).getTime()
  const ago = Math.round((midnight(new Date()) - midnight(date)) / 86_400_000)
  if (ago === 0) return t`today`
  return ago === 1 ? t`yesterday` : dayFormat.format(date) + yearOf(date)
}

const FAR_MS = 300 * 86_400_000

/** The year of a day that is so far away that it isn’t plain which one is meant. */
const yearOf = (date: Date) =>
  Math.abs(Date.now() - date.getTime()) > FAR_MS ? ` ${date.getFullYear()}` : ''

/** Sunday 22 November */
export function longDay(iso: string): string {
  const date = new Date(iso)
  return longDayFormat.format(date) + yearOf(date)
}

const SMALL = ['no', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten']

/** What is counted in sentences: one, and several. */
const NOUNS = {
  answer: [t`answer`, t`answers`],
  day: [t`day`, t`days`],
  attempt: [t`attempt`, t`attempts`],
  assignment: [t`assignment`, t`assignments`],
  family: [t`family`, t`families`],
  group: [t`group`, t`groups`],
  guardian: [t`guardian`, t`guardians`],
  invitation: [t`invitation`, t`invitations`],
  learner: [t`learner`, t`learners`],
  mail: [t`mail`, t`mails`],
  'more question': [t`more question`, t`more questions`],
  mistake: [t`mistake`, t`mistakes`],
  minute: [t`minute`, t`minutes`],
  'other task': [t`other task`, t`other tasks`],
  page: [t`page`, t`pages`],
  person: [t`person`, t`people`],
  piece: [t`piece`, t`pieces`],
  point: [t`point`, t`points`],
  question: [t`question`, t`questions`],
  row: [t`row`, t`rows`],
  'spare code': [t`spare code`, t`spare codes`],
  target: [t`target`, t`targets`],
  test: [t`test`, t`tests`],
  thing: [t`thing`, t`things`],
  topic: [t`topic`, t`topics`],
  try: [t`try`, t`tries`],
  week: [t`week`, t`weeks`],
} as const

/** Small numbers in words, with their noun: one miss, 12 misses. */
export function counted(n: number | string, noun: keyof typeof NOUNS): string {
  const number = typeof n === 'number' ? (SMALL[n] ?? n) : n
  return `${number} ${NOUNS[noun][Number(n) === 1 ? 0 : 1]}`
}

export const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)

export const lowerFirst = (text: string) => text.charAt(0).toLowerCase() + text.slice(1)

const momentFormat = new Intl.DateTimeFormat('en-GB', {
  weekday: 'short',
  day: 'numeric',
  month: 'short',
  hour: '2-digit',
  minute: '2-digit',
})

/** Sun 22 Nov, 18:00 */
export function moment(iso: string): string {
  const date = new Date(iso)
  return withoutComma(momentFormat.format(date)).replace(',', `${yearOf(date)},`)
}

/** 5 min, 3 h, 2 days: how long ago a moment was. */
export function since(iso: string): string {
  const minutes = Math.max(0, (Date.now() - new Date(iso).getTime()) / 60_000)
  if (minutes < 90) return `${Math.max(1, Math.round(minutes))} min`
  if (minutes < 36 * 60) return `${Math.round(minutes / 60)} h`
  return counted(Math.round(minutes / 1440), 'day')
}

/** The day so many days after another, as 2026-11-25. */
export function inDays(day: string, days: number): string {
  const date = new Date(`${day}T12:00:00Z`)
  date.setUTCDate(date.getUTCDate() + days)
  return date.toISOString().slice(0, 10)
}

const weekdayFormat = new Intl.DateTimeFormat('en-GB', { weekday: 'short', day: 'numeric' })

/** Sun 22 */
export const shortWeekday = (day: string) => weekdayFormat.format(new Date(`${day}T12:00:00`))

/** today, tomorrow, in 12 days */
export function untilDay(from: string, to: string): string {
  const days = Math.round((Date.parse(to) - Date.parse(from)) / 86_400_000)
  if (days <= 0) return t`today`
  return days === 1 ? t`tomorrow` : t`in ${counted(days, 'day')}`
}
