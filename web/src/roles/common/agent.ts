import { t } from '@lingui/core/macro'

const SYSTEMS: [RegExp, string][] = [
  [/android/i, 'Android'],
  [/iphone|ipad|ipod/i, 'iOS'],
  [/windows/i, 'Windows'],
  [/mac os/i, 'macOS'],
  [/linux|cros/i, 'Linux'],
]

/** What a browser says of itself, in a word or two: enough to know one's own again. */
export function agentWords(agent: string): string {
  const system = SYSTEMS.find(([pattern]) => pattern.test(agent))?.[1]
  const kind = /mobi/i.test(agent) ? t`A phone` : t`A browser`
  return system ? t`${kind} on ${system}` : kind
}
