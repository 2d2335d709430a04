import { useEffect, useRef } from 'react'

let katex: Promise<typeof import('katex')> | undefined

function loadKatex() {
  katex ??= Promise.all([import('katex'), import('katex/dist/katex.min.css')]).then(([lib]) => lib)
  return katex
}

const USUAL_FONTS = /^"?KaTeX_(Main|Math|Size1|Size2)/

/** What sets mathematics, with its usual fonts, so that showing some asks for nothing. */
export async function loadMath() {
  await loadKatex()
  const usual = [...document.fonts].filter((font) => USUAL_FONTS.test(font.family))
  await Promise.all(usual.map((font) => font.load()))
}

/** Sets a formula into a node. */
export async function setMath(node: HTMLElement, tex: string, displayMode = false) {
  const { render } = await loadKatex()
  render(tex, node, {
    displayMode,
    throwOnError: false,
    strict: 'ignore',
    output: 'htmlAndMathml',
    maxSize: 20,
    maxExpand: 200,
  })
}

async function typeset(root: HTMLElement) {
  for (const node of root.querySelectorAll<HTMLElement>('.math:not([data-set])')) {
    const tex = node.textContent ?? ''
    node.dataset.set = 'yes'
    await setMath(node, tex, node.classList.contains('block'))
  }
}

/** HTML made by the server from Markdown, with its mathematics set by the shipped TeX fonts. */
export function Html({
  html,
  className,
  inline,
}: {
  html: string
  className?: string
  inline?: boolean
}) {
  const ref = useRef<HTMLDivElement & HTMLSpanElement>(null)
  // biome-ignore lint/correctness/useExhaustiveDependencies: new HTML wants setting again
  useEffect(() => {
    if (ref.current) void typeset(ref.current)
  }, [html])
  const Tag = inline ? 'span' : 'div'
  return <Tag ref={ref} className={className} dangerouslySetInnerHTML={{ __html: html }} />
}
