/** The letters that stand for a name at the top. */
export const initialsOf = (name: string) =>
  name
    .split(' ')
    .map((part) => part[0])
    .join('')

export const initialsClass =
  'flex size-10 items-center justify-center rounded-full bg-on-deep/15 text-sm font-semibold text-on-deep ring-1 ring-on-deep-2/60'
