import type { ReactNode } from 'react'
import { TextLink } from '../../ui/TextLink'

/** A group in a list: its name leads to it, and what is to be known of it stands beside. */
export function GroupLine(props: { to: string; title: string; children: ReactNode }) {
  return (
    <li className="flex flex-wrap items-baseline justify-between gap-x-6 border-b border-line py-3">
      <TextLink to={props.to} className="text-lg font-semibold">
        {props.title}
      </TextLink>
      <span className="text-ink-2">{props.children}</span>
    </li>
  )
}
