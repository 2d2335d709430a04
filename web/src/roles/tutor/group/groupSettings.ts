import { t } from '@lingui/core/macro'
import type { Schemas } from '../../../api/client'

type Settings = Schemas['GroupSettingsOut']

export const LABELS: Record<string, string> = {
  title: t`Name of the group`,
  exam_on: t`Exam on`,
  tries: t`Tries in practice`,
  miss_takes: t`Each wrong try costs`,
  asks_sure: t`Ask how sure they are`,
  own_aims: t`Own targets and date`,
  classmates: t`Ask each other for help`,
  not_taught: t`Topics not taught yet`,
  targets: t`Target in`,
  importance: t`Weights`,
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
