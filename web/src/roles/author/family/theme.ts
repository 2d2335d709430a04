import type { Extension } from '@codemirror/state'
import { EditorView } from '@codemirror/view'
import { getNonce } from 'get-nonce'

/** What the styles of editors need to be let in. */
export const nonce: Extension = EditorView.cspNonce.of(getNonce() ?? '')

/** A text in the letters of the page. */
export const asRead = (large: boolean): Extension =>
  EditorView.theme({
    '&': {
      border: '1px solid var(--v-edge)',
      borderRadius: '0.5rem',
      background: 'var(--v-sheet)',
      fontSize: large ? '1.15rem' : '1rem',
    },
    '.cm-scroller': { fontFamily: 'var(--font-sans)', lineHeight: large ? '1.75' : '1.5' },
    '.cm-content': {
      padding: large ? '0.8rem 0.9rem' : '0.4rem 0.6rem',
      caretColor: 'var(--v-ink)',
    },
    '.cm-line': { padding: '0' },
    '&.cm-focused': { outline: '3px solid var(--v-gust)', outlineOffset: '2px' },
  })

/** A file, in letters of one width. */
export const asWritten: Extension = EditorView.theme({
  '&': {
    border: '1px solid var(--v-edge)',
    borderRadius: '0.5rem',
    background: 'var(--v-sheet)',
    fontSize: '0.9rem',
  },
  '.cm-content': { caretColor: 'var(--v-ink)' },
  '.cm-gutters': { background: 'var(--v-rail)', color: 'var(--v-ink-3)', border: '0' },
  '&.cm-focused': { outline: '3px solid var(--v-gust)', outlineOffset: '2px' },
  '.cm-tooltip': { background: 'var(--v-sheet)', color: 'var(--v-ink)' },
})
