import type { Schemas } from '../../../api/client'

export type Term = Schemas['TermEdit']
export type BookData = Term['book']
export type Category = BookData['categories'][number]
export type Outside = BookData['outside'][number]

/** As it is sent: numbers with a point, whatever they were typed with. */
export function cleaned(form: Term): Term {
  const plain = (text: string) => text.trim().replace(',', '.')
  const { book } = form
  return {
    ...form,
    title: form.title.trim(),
    book: {
      ...book,
      pass_mark: book.pass_mark === null ? null : plain(book.pass_mark),
      bands: book.bands.map((band) => ({ ...band, least: plain(band.least) })),
      categories: book.categories.map((one) => ({ ...one, weight: plain(one.weight) })),
      outside: book.outside.map((one) => ({ ...one, of: plain(one.of) })),
    },
  }
}

/** A key that none of these has: letters of the title, and a number where that is taken. */
export function newKey(taken: string[], start: string): string {
  for (let number = 1; ; number += 1) {
    const key = number === 1 ? start : `${start}-${number}`
    if (!taken.includes(key)) return key
  }
}

/** Kinds of new work go into one category each: what one takes, no other does. */
export function taking(
  categories: Category[],
  place: number,
  kind: Category['takes'][number],
  on: boolean,
): Category[] {
  return categories.map((one, i) => {
    const others = one.takes.filter((each) => each !== kind)
    return { ...one, takes: i === place && on ? [...others, kind] : others }
  })
}
