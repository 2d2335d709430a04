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

/** 09:42:07 */
export const clockTime = (iso: string) => clockFormat.format(new Date(iso))

/** today, yesterday, or 14 Nov */
export function day(iso: string): string {
  const date = new Date(iso)
  const midnight = (d: Date) => new Date(d.getFullYear(), d.getMonth(), d.getDate()).getTime()
  const ago = Math.round((midnight(new Date()) - midnight(date)) / 86_400_000)
  if (ago === 0) return 'today'
  return ago === 1 ? 'yesterday' : dayFormat.format(date)
}

/** Sunday 22 November */
export const longDay = (iso: string) => longDayFormat.format(new Date(iso))

const SMALL = ['no', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten']

/** Small numbers in words, with their noun: one miss, 12 misses. */
export function counted(n: number, one: string, many = `${one}s`): string {
  return `${SMALL[n] ?? n} ${n === 1 ? one : many}`
}

export const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)

export const lowerFirst = (text: string) => text.charAt(0).toLowerCase() + text.slice(1)

/** 48 s, 2 min 5 s */
export function duration(seconds: number): string {
  const whole = Math.round(seconds)
  if (whole < 60) return `${whole} s`
  return whole % 60 ? `${Math.floor(whole / 60)} min ${whole % 60} s` : `${whole / 60} min`
}
