import { type ComponentProps, useLayoutEffect, useRef } from 'react'

/**
 * A bar that stays at the bottom of the window, at most a quarter of its height: with large text it
 * scrolls. What lies over the page stands above it, by the height it tells as `--bar`.
 */
export function BottomBar({ className = '', ...rest }: ComponentProps<'div'>) {
  const bar = useRef<HTMLDivElement>(null)
  useLayoutEffect(() => {
    const node = bar.current
    if (!node) return
    const { style } = document.documentElement
    const watch = new ResizeObserver(() => style.setProperty('--bar', `${node.offsetHeight}px`))
    watch.observe(node)
    return () => {
      watch.disconnect()
      style.removeProperty('--bar')
    }
  }, [])
  return (
    <div
      ref={bar}
      className={`sticky bottom-0 max-h-[25dvh] overflow-y-auto border-t border-line ${className}`}
      {...rest}
    />
  )
}
