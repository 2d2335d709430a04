/** Where a key leads in a table of so many rows and columns; null for a key that leads nowhere. */
export function nextCell(
  key: string,
  [row, column]: [number, number],
  rows: number,
  columns: number,
): [number, number] | null {
  const down = Math.min(row + 1, rows - 1)
  const right = Math.min(column + 1, columns - 1)
  switch (key) {
    case 'ArrowDown':
      return [down, column]
    case 'ArrowUp':
      return [Math.max(0, row - 1), column]
    case 'ArrowRight':
      return [row, right]
    case 'ArrowLeft':
      return [row, Math.max(0, column - 1)]
    case 'Home':
      return [row, 0]
    case 'End':
      return [row, columns - 1]
    case 'PageDown':
      return [Math.min(row + 10, rows - 1), column]
    case 'PageUp':
      return [Math.max(0, row - 10), column]
    default:
      return null
  }
}
