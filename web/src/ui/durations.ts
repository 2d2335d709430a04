import { t } from '@lingui/core/macro'

/** 48 s, 2 min 5 s */
export function duration(seconds: number): string {
  const whole = Math.round(seconds)
  if (whole < 60) return `${whole} s`
  return whole % 60 ? t`${Math.floor(whole / 60)} min ${whole % 60} s` : `${whole / 60} min`
}
