import { expect, test } from 'vitest'
import { agentWords } from './agent'

test('a browser is known again by what it runs on', () => {
  expect(agentWords('Mozilla/5.0 (Linux; Android 14; K) Chrome/131.0 Mobile Safari')).toBe(
    'A phone on Android',
  )
  expect(agentWords('Mozilla/5.0 (X11; Linux x86_64) Gecko/20100101 Firefox/132.0')).toBe(
    'A browser on Linux',
  )
  expect(agentWords('')).toBe('A browser')
})
