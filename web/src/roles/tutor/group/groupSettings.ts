import type { Schemas } from '../../../api/client'

type Settings = Schemas['GroupSettingsOut']

export const LABELS: Record<string, string> = {
  title: 'Name of the group',
  exam_on: 'Exam on',
  tries: 'Tries in practice',
  miss_takes: 'A miss takes off',
  asks_sure: 'Ask how sure they are',
  own_aims: 'Targets and a date of their own',
  classmates: 'Ask each other for help',
  not_taught: 'Topics not taught yet',
  targets: 'Target in',
  importance: 'How much counts',
}

/** Numbers by topic with one of them set, or taken out where nothing is typed. */
export function withOne(all: Record<string, number>, key: string, typed: string) {
  const { [key]: _, ...rest } = all
  return Number(typed) ? { ...rest, [key]: Number(typed) } : rest
}

/** Settings as they are sent. */
export function asSent({ topics, version: _, ...rest }: Settings) {
  const targets: Record<string, number> = {}
  const importance: Record<string, number> = {}
  for (const one of topics) {
    if (one.target !== null) targets[one.key] = one.target
    if (one.importance !== null) importance[one.key] = one.importance
  }
  const not_taught = topics
    .filter((one) => !one.taught)
    .map((one) => one.key)
    .sort()
  return { ...rest, targets, importance, not_taught }
}
