const FOCUSABLE = [
  'a[href]',
  'button:enabled',
  'input:enabled',
  'select:enabled',
  'textarea:enabled',
  'summary',
  '[tabindex="0"]',
].join()
/** Time for what was asked for to take the focus by itself. */
const SETTLE_MS = 60
/** What is disabled or hidden for longer is not busy: what it was for is done. */
const BUSY_MS = 2000
/** Longer than this nobody waits for a page that loads, or a button that is busy. */
const GIVE_UP_MS = 8000

interface Step {
  node: Element
  /** Its place among its parent's children. */
  place: number
}

/**
 * Keeps the focus from falling to the page's body when what had it goes away: it goes to what took
 * its place, or to the heading of the nearest part of the page that is still there. A button that
 * was only busy gets it back. Returns how to stop.
 */
export function keepFocus(page: Document): () => void {
  let trail: Step[] = []
  let lostAt = 0
  let timer = 0

  const remember = ({ target }: Pick<FocusEvent, 'target'>) => {
    if (!(target instanceof Element) || target === page.body) return
    lostAt = 0
    trail = []
    for (let node: Element = target; node !== page.body && node.parentElement; ) {
      trail.push({ node, place: Array.from(node.parentElement.children).indexOf(node) })
      node = node.parentElement
    }
  }

  const look = () => {
    timer = 0
    const had = trail[0]?.node
    if (!had || !lostAt) return
    const since = performance.now() - lostAt
    if (since > GIVE_UP_MS) return
    if (page.activeElement !== page.body) return canHold(had) ? undefined : later()
    const target = targetOf(trail, since)
    if (!target) return later()
    if (!target.matches(FOCUSABLE) && !target.hasAttribute('tabindex')) target.tabIndex = -1
    target.focus({ preventScroll: true })
    target.scrollIntoView({ block: 'nearest' })
  }
  const later = () => {
    timer ||= window.setTimeout(look, SETTLE_MS)
  }
  // The browser lets go of what was disabled or removed only when it draws next, without a word.
  const changed = () => {
    const had = trail[0]?.node
    if (!had || canHold(had)) return
    lostAt ||= performance.now()
    later()
  }

  const watch = new MutationObserver(changed)
  watch.observe(page.body, {
    childList: true,
    subtree: true,
    attributes: true,
    // A part that waits for something is hidden by its style.
    attributeFilter: ['disabled', 'hidden', 'inert', 'style'],
  })
  page.addEventListener('focusin', remember)
  // Something may have been pressed before this was loaded.
  remember({ target: page.activeElement })
  return () => {
    window.clearTimeout(timer)
    watch.disconnect()
    page.removeEventListener('focusin', remember)
  }
}

const isShown = (node: Element) => node.getClientRects().length > 0
const canHold = (node: Element) =>
  node.isConnected && isShown(node) && !node.matches(':disabled') && !node.closest('[inert]')

/** Where the focus goes; nothing while a button is busy or the page loads. since: milliseconds
 * since it was lost. */
function targetOf(trail: Step[], since: number): HTMLElement | undefined {
  const [had, ...around] = trail
  if (!had) return undefined
  if (canHold(had.node)) return had.node as HTMLElement
  // Busy, or hidden while something beside it loads: it comes back.
  if (had.node.isConnected && since < BUSY_MS) return undefined
  let gone = had
  // A page that loads has no main part yet.
  if (!document.querySelector('main')) return undefined
  for (const step of around) {
    if (step.node.isConnected && isShown(step.node)) {
      const main = step.node.querySelector('main')
      if (main) return headingIn(main)
      const { children } = step.node
      const there = [children[gone.place], children[gone.place + 1], children[gone.place - 1]]
      return there.map(firstIn).find(Boolean) ?? headingIn(step.node)
    }
    gone = step
  }
  const main = document.querySelector('main')
  return main ? headingIn(main) : undefined
}

function firstIn(node: Element | undefined): HTMLElement | undefined {
  if (!node) return undefined
  const all = node.matches(FOCUSABLE) ? [node] : Array.from(node.querySelectorAll(FOCUSABLE))
  return all.find((one): one is HTMLElement => one instanceof HTMLElement && canHold(one))
}

/** The heading of a part of the page: its own, or that of what it is in. */
function headingIn(part: Element): HTMLElement | undefined {
  for (let node: Element | null = part; node && node !== document.body; node = node.parentElement) {
    const found = Array.from(node.querySelectorAll('h1, h2, h3')).find(isShown)
    if (found instanceof HTMLElement) return found
    if (node.matches('main')) return undefined
  }
  return undefined
}
