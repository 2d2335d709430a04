import { expect, test } from 'vitest'
import { initialsOf } from './initials'

test.each([
  ['Ana Lima', 'AL'],
  ['Ana Maria de Sousa Lima', 'AL'],
  ['  Nel ', 'N'],
  ['Clara Nunes, practising', 'CN'],
  ['𝒜na 𝓛ima', '𝒜𝓛'],
  ['', ''],
])('%j is %j', (name, letters) => {
  expect(initialsOf(name)).toBe(letters)
})
