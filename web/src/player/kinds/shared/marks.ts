/** A number as it is read, with a true minus sign. */
export const withMinus = (text: string) => text.replace('-', '\u2212')

/** Multiples of a mark, so that 0 is among them wherever a scale begins. */
export function marksOf(low: number, high: number, mark: number): number[] {
  const first = Math.ceil(low / mark - 1e-9)
  const count = Math.floor(high / mark + 1e-9) - first + 1
  return Array.from({ length: count }, (_, i) => Math.round((first + i) * mark * 1e6) / 1e6)
}

/** The distance of about eight marks: 1, 2 or 5 times a power of ten. */
export function roundMark(low: number, high: number): number {
  const wanted = (high - low) / 8
  const ten = 10 ** Math.floor(Math.log10(wanted))
  return ten * ([1, 2, 5].find((times) => times * ten >= wanted - 1e-9) ?? 10)
}
