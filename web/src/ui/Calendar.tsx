import { DayPicker } from 'react-day-picker'
import { enGB } from 'react-day-picker/locale/en-GB'
import { dateOf, isoDay } from './dates'

/** A month to choose a day from. Arrow keys move by days and weeks, Page up and down by months. */
export default function Calendar({
  day,
  onDay,
}: {
  day: string | null
  onDay: (day: string) => void
}) {
  const chosen = day ? dateOf(day) : undefined
  return (
    <DayPicker
      mode="single"
      required
      autoFocus
      locale={enGB}
      selected={chosen}
      defaultMonth={chosen}
      onSelect={(date) => onDay(isoDay(date))}
      classNames={{
        months: 'relative',
        month_caption: 'flex h-9 items-center justify-center font-semibold',
        nav: 'absolute inset-x-0 top-0 flex h-9 justify-between',
        button_previous: 'size-9 rounded-lg p-2 hover:bg-rail',
        button_next: 'size-9 rounded-lg p-2 hover:bg-rail',
        chevron: 'size-5 fill-ink-2',
        weekday: 'size-9 text-sm font-normal text-ink-2',
        day: 'p-0 text-center',
        day_button: 'size-9 rounded-lg tabular-nums hover:bg-rail',
        today: 'font-semibold underline underline-offset-4',
        selected: '[&>button]:bg-ink [&>button]:text-sheet',
      }}
    />
  )
}
