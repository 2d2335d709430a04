import { t } from '@lingui/core/macro'
import { DropdownMenu } from 'radix-ui'
import { useNavigate } from 'react-router'
import { setPreferences, TEXT_SIZES, usePreferences } from '../ui/preferences'
import { initialsClass, initialsOf } from './initials'
import { useSignOut } from './session'

const item =
  'flex cursor-pointer items-center justify-between gap-6 rounded-md px-3 py-2 outline-none data-highlighted:bg-gust-soft'

interface Props {
  name: string
  /** Places that are in no bar. */
  links: { label: string; to: string }[]
  onKeys: () => void
}

/** Text size, colours, letter keys, further places and signing out. */
export default function AccountMenu({ name, links, onKeys }: Props) {
  const { textSize, theme, letterKeys } = usePreferences()
  const signOut = useSignOut()
  const navigate = useNavigate()
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger
        aria-label={t`${name}: settings and signing out`}
        className={initialsClass}
      >
        {initialsOf(name)}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={8}
          className="z-20 max-h-[80vh] min-w-60 overflow-y-auto rounded-box border border-line bg-sheet p-2 text-ink shadow-lg"
        >
          <DropdownMenu.Label className="px-3 py-1.5 font-semibold">{name}</DropdownMenu.Label>
          {links.map(({ label, to }) => (
            <DropdownMenu.Item key={to} className={item} onSelect={() => navigate(to)}>
              {label}
            </DropdownMenu.Item>
          ))}
          <DropdownMenu.Item className={item} onSelect={onKeys}>
            {t`All keys`}
            <span className="text-ink-2">?</span>
          </DropdownMenu.Item>
          <DropdownMenu.Item
            className={item}
            onSelect={() => signOut.mutate(undefined)}
          >{t`Sign out`}</DropdownMenu.Item>
          <DropdownMenu.Separator className="my-2 h-px bg-line" />
          <DropdownMenu.RadioGroup
            value={String(textSize)}
            onValueChange={(value) => setPreferences({ textSize: Number(value) })}
          >
            <DropdownMenu.Label className="px-3 pt-2 text-sm text-ink-2">{t`Text size`}</DropdownMenu.Label>
            {TEXT_SIZES.map((size) => (
              <DropdownMenu.RadioItem
                key={size}
                value={String(size)}
                className={item}
                onSelect={keepOpen}
              >
                {size}%<DropdownMenu.ItemIndicator>{t`chosen`}</DropdownMenu.ItemIndicator>
              </DropdownMenu.RadioItem>
            ))}
          </DropdownMenu.RadioGroup>
          <DropdownMenu.RadioGroup
            value={theme}
            onValueChange={(value) => setPreferences({ theme: value as typeof theme })}
          >
            <DropdownMenu.Label className="px-3 pt-2 text-sm text-ink-2">{t`Colours`}</DropdownMenu.Label>
            {(['system', 'light', 'dark'] as const).map((value) => (
              <DropdownMenu.RadioItem
                key={value}
                value={value}
                className={item}
                onSelect={keepOpen}
              >
                {{ system: t`As this device`, light: t`Light`, dark: t`Dark` }[value]}
                <DropdownMenu.ItemIndicator>{t`chosen`}</DropdownMenu.ItemIndicator>
              </DropdownMenu.RadioItem>
            ))}
          </DropdownMenu.RadioGroup>
          <DropdownMenu.CheckboxItem
            checked={letterKeys}
            onCheckedChange={(on) => setPreferences({ letterKeys: on })}
            onSelect={keepOpen}
            className={item}
          >
            {t`Keyboard shortcuts`}
            <span className="text-ink-2">{letterKeys ? 'on' : 'off'}</span>
          </DropdownMenu.CheckboxItem>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}

function keepOpen(event: Event) {
  event.preventDefault()
}
