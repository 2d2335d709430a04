import { t } from '@lingui/core/macro'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useParams } from 'react-router'
import { ChangedNote, plain } from '../../../account/ChangedNote'
import { useEdit } from '../../../account/useEdit'
import type { Schemas } from '../../../api/client'
import { keys } from '../../../api/keys'
import { Button } from '../../../ui/Button'
import { Check } from '../../../ui/Check'
import { DateField } from '../../../ui/DateField'
import { fieldClass, Input, Labelled, Problem } from '../../../ui/Field'
import { KeptNote } from '../../../ui/KeptNote'
import { Loaded } from '../../../ui/states'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'
import { groupSettingsQuery, setGroup } from '../queries'
import { Covers } from './Covers'
import { FromPlatform } from './FromPlatform'
import { asSent, LABELS, withOne } from './groupSettings'

type Settings = Schemas['GroupSettingsOut']

export default function GroupSettingsPage() {
  const id = Number(useParams().group)
  const query = useQuery(groupSettingsQuery(id))
  return (
    <Loaded query={query} what={t`the settings`}>
      {(settings) => <Opened id={id} settings={settings} />}
    </Loaded>
  )
}

const TAKES: [Settings['miss_takes'], string][] = [
  ['0', 'nothing'],
  ['1/4', t`a quarter`],
  ['1/3', t`a third`],
  ['1/2', 'half'],
]
const WEIGHT: [number, string][] = [
  [0.5, t`half`],
  [1, 'ordinary'],
  [1.5, t`1.5 times`],
  [2, t`twice`],
]

/** What has been taught, targets, importance, the exam and the rules of practice of a group. */
function Opened({ id, settings }: { id: number; settings: Settings }) {
  useTitle(t`${settings.title}, settings`)
  const cache = useQueryClient()
  const edit = useEdit({
    place: `group:${id}`,
    opened: asSent(settings),
    version: settings.version,
    save: (form, version) => setGroup(id, { ...form, version }),
    stands: (next) => ({ form: asSent(next), version: next.version }),
    onSaved: (next) => {
      cache.setQueryData(keys.groupSettings(id), next)
      void cache.invalidateQueries({ queryKey: keys.groups })
      void cache.invalidateQueries({ queryKey: ['learner'] })
    },
  })
  const { form: now, set: change } = edit
  const untaught = (key: string) => now.not_taught.includes(key)
  const taught = settings.topics.filter((one) => !untaught(one.key)).length
  const title = (key = '') => settings.topics.find((one) => one.key === key)?.title ?? ''
  const label = (path: string) => {
    const [field = '', key] = path.split('.')
    return key ? `${LABELS[field]} ${title(key)}` : (LABELS[field] ?? field)
  }
  return (
    <main id="main" className="max-w-5xl px-5 py-8 @5xl:px-8">
      <p>
        <TextLink to={`/tutor/groups/${id}`}>{settings.title}</TextLink>
      </p>
      <h1 className="text-3xl">{t`Group settings`}</h1>
      <p className="mt-1 text-ink-2">{t`This applies to every member as soon as you save. ${taught} of ${settings.topics.length} topics are taught. The others are not asked and don’t count.`}</p>
      <KeptNote restored={edit.restored} onDiscard={edit.discard} />
      <form
        className="mt-5"
        onSubmit={(event) => {
          event.preventDefault()
          edit.save()
        }}
      >
        <div className="grid items-end gap-x-6 gap-y-4 @3xl:grid-cols-3">
          <Labelled label={t`Name of the group`}>
            <Input
              value={now.title}
              required
              maxLength={80}
              onChange={(event) => change({ title: event.target.value })}
            />
          </Labelled>
          <DateField
            label={t`Exam on`}
            day={now.exam_on ?? null}
            onDay={(day) => change({ exam_on: day })}
          />
          <div className="grid grid-cols-2 gap-3">
            <Labelled label={t`Tries in practice`}>
              <select
                className={fieldClass}
                value={now.tries}
                onChange={(event) => change({ tries: Number(event.target.value) })}
              >
                {[1, 2, 3, 4, 5].map((n) => (
                  <option key={n}>{n}</option>
                ))}
              </select>
            </Labelled>
            <Labelled label={t`Each wrong try costs`}>
              <select
                className={fieldClass}
                value={now.miss_takes}
                onChange={(event) =>
                  change({ miss_takes: event.target.value as Settings['miss_takes'] })
                }
              >
                {TAKES.map(([value, label]) => (
                  <option key={value} value={value}>
                    {label}
                  </option>
                ))}
              </select>
            </Labelled>
          </div>
        </div>
        <div className="mt-4 grid gap-1.5">
          <Check
            on={now.asks_sure}
            set={(asks_sure) => change({ asks_sure })}
          >{t`Ask how sure they are before an answer is sent`}</Check>
          <Check
            on={now.own_aims}
            set={(own_aims) => change({ own_aims })}
          >{t`Members can set their own targets and date`}</Check>
          <Check
            on={now.classmates}
            set={(classmates) => change({ classmates })}
          >{t`Members can ask each other for help`}</Check>
        </div>
        <table className="mt-6 w-full border-collapse text-left">
          <thead>
            <tr className="text-sm text-ink-2">
              <th scope="col" className="py-1.5 font-normal">{t`Topic, ticked when taught`}</th>
              <th scope="col" className="w-40 py-1.5 font-normal">{t`Target`}</th>
              <th scope="col" className="w-56 py-1.5 font-normal">{t`Weight`}</th>
            </tr>
          </thead>
          <tbody>
            {settings.topics.map((one) => (
              <tr key={one.key} className="border-t border-line">
                <th scope="row" className="py-2 font-normal">
                  <Check
                    on={!untaught(one.key)}
                    set={(on) =>
                      change({
                        not_taught: on
                          ? now.not_taught.filter((key) => key !== one.key)
                          : [...now.not_taught, one.key].sort(),
                      })
                    }
                  >
                    {one.title}
                  </Check>
                </th>
                <td className="py-2">
                  <input
                    type="number"
                    min={50}
                    max={95}
                    aria-label={t`Target in ${one.title}`}
                    className={`${fieldClass} w-24`}
                    value={now.targets[one.key] ?? ''}
                    placeholder={String(one.course_target)}
                    onChange={(event) =>
                      change({ targets: withOne(now.targets, one.key, event.target.value) })
                    }
                  />
                </td>
                <td className="py-2">
                  <select
                    aria-label={t`Weight of ${one.title}`}
                    className={fieldClass}
                    value={now.importance[one.key] ?? ''}
                    onChange={(event) =>
                      change({ importance: withOne(now.importance, one.key, event.target.value) })
                    }
                  >
                    <option value="">{t`as in the course`}</option>
                    {WEIGHT.map(([value, label]) => (
                      <option key={value} value={value}>
                        {label}
                      </option>
                    ))}
                  </select>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <ChangedNote
          conflict={edit.conflict}
          label={label}
          words={(path, value) =>
            path === 'not_taught' && Array.isArray(value)
              ? value.map((key) => title(String(key))).join(', ') || t`everything is taught`
              : plain(path, value)
          }
        />
        <div className="sticky bottom-0 mt-4 max-h-[25dvh] overflow-y-auto flex flex-wrap items-center gap-4 border-t border-line bg-sky py-3">
          <Button type="submit" kind="strong" disabled={edit.isPending}>{t`Save settings`}</Button>
          <span role="status">{edit.isSuccess && t`Saved for every member.`}</span>
          <Problem error={edit.error} />
        </div>
      </form>
      <FromPlatform id={id} />
      <Covers group={id} />
    </main>
  )
}
