import { t } from '@lingui/core/macro'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { ChangedNote } from '../../../account/ChangedNote'
import { useEdit } from '../../../account/useEdit'
import { Button } from '../../../ui/Button'
import { SaveRow } from '../../../ui/Field'
import { KeptNote } from '../../../ui/KeptNote'
import { Loaded } from '../../../ui/states'
import { platforms as platformsKey } from './keys'
import { NewPlatform } from './NewPlatform'
import { type Form, LABELS, PlatformFields } from './PlatformFields'
import { type Platforms as All, changePlatform, type Platform, platformsQuery } from './queries'

/** Platforms that assign work here, and get its marks. */
export function Platforms() {
  const query = useQuery(platformsQuery)
  const [adding, setAdding] = useState(false)
  return (
    <section aria-labelledby="platforms">
      <h2 id="platforms" className="text-2xl">{t`Platforms (LTI 1.3)`}</h2>
      <p className="mt-1 max-w-3xl text-ink-2">{t`A platform is another system where your courses live. Its learners come here to do the work, and their marks go back.`}</p>
      <Loaded query={query} what={t`the platforms`}>
        {(all) => (
          <>
            <Ours ours={all.ours} />
            <ul className="mt-4 grid gap-3">
              {all.platforms.map((one) => (
                <li key={one.id} className="rounded-box bg-sheet p-4">
                  <One platform={one} />
                </li>
              ))}
            </ul>
            {adding ? (
              <NewPlatform onDone={() => setAdding(false)} />
            ) : (
              <p className="mt-4">
                <Button onClick={() => setAdding(true)}>{t`Let a platform in`}</Button>
              </p>
            )}
          </>
        )}
      </Loaded>
    </section>
  )
}

function Ours({ ours }: { ours: All['ours'] }) {
  const lines: [string, string][] = [
    [t`Login address`, ours.login],
    [t`Launch address, also for picking work`, ours.launch],
    [t`Address of our keys`, ours.keys],
    [t`Address to register us by itself`, ours.registration],
  ]
  return (
    <>
      <h3 className="mt-4 text-lg">{t`What the platform has to know`}</h3>
      <dl className="mt-1 grid gap-x-4 @3xl:grid-cols-[auto_1fr]">
        {lines.map(([label, address]) => (
          <div key={label} className="contents">
            <dt className="text-ink-2">{label}</dt>
            <dd className="font-mono text-sm break-all">{address}</dd>
          </div>
        ))}
      </dl>
    </>
  )
}

const asForm = ({ id, version, people, ...form }: Platform): Form => form

function One({ platform }: { platform: Platform }) {
  const [open, setOpen] = useState(false)
  const { name, issuer, people, on, tutors } = platform
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h3 className="text-lg">{name}</h3>
        <span className="min-w-0 flex-1 break-all text-ink-2">{issuer}</span>
        <span>
          {on
            ? tutors
              ? t`Learners and tutors may come.`
              : t`Learners may come.`
            : t`Switched off.`}{' '}
          {t`Accounts: ${people}.`}
        </span>
        <Button kind="quiet" aria-label={t`Change ${name}`} onClick={() => setOpen(!open)}>
          {open ? t`Close` : t`Change`}
        </Button>
      </div>
      {open && <Change platform={platform} />}
    </>
  )
}

function Change({ platform }: { platform: Platform }) {
  const cache = useQueryClient()
  const mine = (all: All) => all.platforms.find(({ id }) => id === platform.id) ?? platform
  const edit = useEdit({
    place: `platform:${platform.id}`,
    opened: asForm(platform),
    version: platform.version,
    save: (form, version) => changePlatform(platform.id, { ...form, version }),
    stands: (all) => ({ form: asForm(mine(all)), version: mine(all).version }),
    onSaved: (all) => cache.setQueryData(platformsKey, all),
  })
  return (
    <form
      className="mt-3 grid gap-4"
      onSubmit={(event) => {
        event.preventDefault()
        edit.save()
      }}
    >
      <KeptNote restored={edit.restored} onDiscard={edit.discard} />
      <PlatformFields form={edit.form} set={edit.set} />
      <ChangedNote conflict={edit.conflict} label={(path) => LABELS[path] ?? path} />
      <SaveRow save={edit} strong />
    </form>
  )
}
