import { describe, expect, it } from 'vitest'
import { countWords, toDocument } from './words'

describe('words of a text', () => {
  it('are counted as the server counts them', () => {
    // The same examples are in the core's test_rich_text.py.
    for (const [words, said] of [
      ['', 0],
      ["It’s a four-knot tide, isn't it?", 6],
      ['at 13:50 – 2.4 m', 4],
      ['São João | água_viva', 4],
      ['…', 0],
    ] as const)
      expect(countWords(words), words).toBe(said)
  })
})

describe('what the editor begins with', () => {
  it('is an older text, line by line, with what was bold and italic', () => {
    const doc = toDocument('Wear **life jackets**, *always*\n- 2*3*4')
    expect(doc.content?.map((one) => one.content)).toEqual([
      [
        { type: 'text', text: 'Wear ' },
        { type: 'text', text: 'life jackets', marks: [{ type: 'bold' }] },
        { type: 'text', text: ', ' },
        { type: 'text', text: 'always', marks: [{ type: 'italic' }] },
      ],
      [
        { type: 'text', text: '- 2' },
        { type: 'text', text: '3', marks: [{ type: 'italic' }] },
        { type: 'text', text: '4' },
      ],
    ])
    expect(toDocument('').content).toEqual([{ type: 'paragraph', content: [] }])
  })
})
