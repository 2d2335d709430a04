/** Dates as people write them and read them, the British way. */

const MONTHS = Array.from({ length: 12 }, (_, i) =>
  new Intl.DateTimeFormat('en-GB', { month: 'long' }).format(new Date(2024, i, 1)).toLowerCase(),
)
const writtenFormat = new Intl.DateTimeFormat('en-GB', {
  weekday: 'short',
  day: 'numeric',
  month: 'short',
  year: 'numeric',
})

/** Parts of a format side by side, without the comma that it puts after the day of the week. */
export const withoutComma = (text: string) => text.replace(/^(\w+),/, '$1')

/** A day as 2026-12-03, in the browser’s own zone. */
export function isoDay(date: Date): string {
  const two = (n: number) => String(n).padStart(2, '0')
  return `${date.getFullYear()}-${two(date.getMonth() + 1)}-${two(date.getDate())}`
}

/** A day as a date at noon, so that no change of the clocks moves it. */
export const dateOf = (day: string) => new Date(`${day}T12:00:00`)

/** Thu 3 Dec 2026 */
export const writtenDay = (day: string) => withoutComma(writtenFormat.format(dateOf(day)))

/**
 * A day that somebody typed: 3 Dec, 3 December 2026, 3/12/26, 2026-12-03. Without a year it is the
 * next such day from today on. '' stays '', null is no day.
 */
export function readDay(typed: string, today = new Date()): string | null {
  const text = typed.trim().toLowerCase()
  if (text === '') return ''
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(text)
  if (iso) return dayOf(Number(iso[1]), Number(iso[2]), Number(iso[3]))
  const found =
    /^(?:[a-z]+,? )?(\d{1,2})(?:st|nd|rd|th)? *[ ./-] *([a-z]+|\d{1,2})\.?,?(?: *[ ./-] *(\d{4}|\d{2}))?$/.exec(
      text,
    )
  if (!found) return null
  const month = monthOf(found[2] ?? '')
  if (month === null) return null
  const date = Number(found[1])
  if (found[3] !== undefined) return dayOf(fullYear(found[3], today), month, date)
  const next = dayOf(today.getFullYear(), month, date)
  if (next !== null && next >= isoDay(today)) return next
  return dayOf(today.getFullYear() + 1, month, date)
}

/** A time of the day that somebody typed: 18:00, 18.00, 1800, 6 pm. '' stays '', null is none. */
export function readTime(typed: string): string | null {
  const text = typed.trim().toLowerCase()
  if (text === '') return ''
  const found = /^(\d{1,2})(?:[:.h ]?(\d{2}))? ?(am|pm)?$/.exec(text)
  if (!found) return null
  let hours = Number(found[1])
  const minutes = Number(found[2] ?? 0)
  if (found[3]) {
    if (hours < 1 || hours > 12) return null
    hours = (hours % 12) + (found[3] === 'pm' ? 12 : 0)
  }
  if (hours > 23 || minutes > 59) return null
  return `${String(hours).padStart(2, '0')}:${String(minutes).padStart(2, '0')}`
}

function monthOf(text: string): number | null {
  if (/^\d+$/.test(text)) return Number(text)
  const found = MONTHS.findIndex((name) => text.length >= 3 && name.startsWith(text))
  return found < 0 ? null : found + 1
}

/** Two figures are the year of this century, or of the last one when it lies far ahead. */
function fullYear(text: string, today: Date): number {
  if (text.length === 4) return Number(text)
  const year = 2000 + Number(text)
  return year > today.getFullYear() + 20 ? year - 100 : year
}

function dayOf(year: number, month: number, date: number): string | null {
  const found = new Date(year, month - 1, date, 12)
  const same = found.getMonth() === month - 1 && found.getDate() === date
  return same && year >= 1900 && year <= 2199 ? isoDay(found) : null
}
