import { t } from '@lingui/core/macro'
import { ArrowLeft, ArrowRight, RotateCw, Trash2 } from 'lucide-react'
import { useCourse } from '../../account/course'
import type { Schemas } from '../../api/client'
import { Check } from '../../ui/Check'
import { IconButton } from '../../ui/IconButton'
import { type Page, type Paper, pagePicture } from './queries'

interface Props {
  attempt: number
  page: Page
  questions: Paper['questions']
  last: boolean
  /** Nothing once pages are taken no more. */
  change?: { set: (body: Schemas['PageIn']) => void; remove: () => void }
}

/** A page with what can be done to it: turn, move, take away, say what it answers. */
export function PageLine({ attempt, page, questions, last, change }: Props) {
  const course = useCourse()
  const name = t`page ${page.place}`
  const toggle = (number: number, on: boolean) =>
    change?.set({
      questions: on ? [...page.questions, number] : page.questions.filter((one) => one !== number),
    })
  return (
    <li className="rounded-box bg-sheet p-3">
      <div className="flex items-start justify-between gap-2">
        <h3 className="text-base">{t`Page ${page.place}`}</h3>
        {change && (
          <span className="flex">
            <IconButton
              icon={RotateCw}
              label={t`Turn ${name}`}
              act={() => change.set({ turn: 1 })}
            />
            <IconButton
              icon={ArrowLeft}
              label={t`Move ${name} forward`}
              off={page.place === 1}
              act={() => change.set({ place: page.place - 1 })}
            />
            <IconButton
              icon={ArrowRight}
              label={t`Move ${name} back`}
              off={last}
              act={() => change.set({ place: page.place + 1 })}
            />
            <IconButton
              icon={Trash2}
              label={t`Remove ${name} and photograph it again`}
              act={change.remove}
            />
          </span>
        )}
      </div>
      <a href={pagePicture(course, attempt, page, false)} target="_blank" rel="noreferrer">
        <img
          src={pagePicture(course, attempt, page, true)}
          alt={t`Page ${page.place}, in full in a new window`}
          className="mt-2 h-48 w-full rounded-lg bg-rail object-contain"
        />
      </a>
      {change ? (
        <fieldset className="mt-2">
          <legend className="text-sm text-ink-2">{t`Answers question`}</legend>
          <div className="flex flex-wrap gap-x-4">
            {questions.map(({ number, title }) => (
              <Check
                key={number}
                label={t`Page ${page.place} answers ${number}, ${title}`}
                on={page.questions.includes(number)}
                set={(on) => toggle(number, on)}
              >
                {number}
              </Check>
            ))}
          </div>
        </fieldset>
      ) : (
        <p className="mt-2 text-ink-2">
          {page.questions.length > 0
            ? t`Answers ${page.questions.join(', ')}`
            : t`No particular question`}
        </p>
      )}
    </li>
  )
}
