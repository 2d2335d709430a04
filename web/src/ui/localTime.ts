/** A moment as a field for local date and time shows it. */
export function localTime(iso: string | null | undefined): string {
  if (!iso) return ''
  const at = new Date(iso)
  const two = (n: number) => String(n).padStart(2, '0')
  return `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}T${two(at.getHours())}:${two(at.getMinutes())}`
}
