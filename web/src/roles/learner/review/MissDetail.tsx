import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { lazy, Suspense, useState } from 'react'
import { useNavigate } from 'react-router'
import { useCourse, useTo } from '../../../account/course'
import { kindOf } from '../../../activities/descriptors'
import { useStart } from '../../../activities/requests'
import type { Schemas } from '../../../api/client'
import { keys } from '../../../api/keys'
import { PaperWorking } from '../../../files/PaperWorking'
import { useFilesAt } from '../../../files/place'
import { QuestionView } from '../../../player/QuestionView'
import { Solution } from '../../../player/Solution'
import { WorkingShown } from '../../../player/WorkingShown'
import { BottomBar } from '../../../ui/BottomBar'
import { Button } from '../../../ui/Button'
import { duration } from '../../../ui/durations'
import { Problem } from '../../../ui/Field'
import { Sign } from '../../../ui/Sign'
import { Loaded } from '../../../ui/states'
import { TextLink } from '../../../ui/TextLink'
import { capital, longDay } from '../../../ui/words'
import { missQuery, setMissAside, takeUpMiss } from '../queries'

const AskSheet = lazy(() => import('../../../activities/AskSheet'))

type Miss = Schemas['MissDetailOut']

export function MissDetail({ id }: { id: number }) {
  const query = useQuery(missQuery(useCourse(), id))
  return (
    <Loaded query={query} what={t`the question`}>
      {(miss) => <Detail miss={miss} />}
    </Loaded>
  )
}

function Detail({ miss }: { miss: Miss }) {
  const to = useTo()
  const sure =
    miss.sure === null
      ? ''
      : miss.sure === 100
        ? t`, you were sure`
        : t`, you were ${miss.sure}% sure`
  return (
    <div className="flex min-h-full flex-col">
      <div className="flex-1 px-5 py-7 @5xl:px-12">
        <TextLink
          to={to('/review')}
          className="mb-3 inline-block @4xl:hidden"
        >{t`All mistakes`}</TextLink>
        <p className="text-sm text-ink-2">
          {capital(kindOf(miss.purpose))}, {longDay(miss.at)}, {duration(miss.seconds)}
          {sure}
        </p>
        <h2 className="sr-only">{miss.question.title}</h2>
        <div className="mt-2">
          <AsItWas miss={miss} />
        </div>
        <Comparison rows={miss.comparison} />
        {miss.says.map((says) => (
          <p key={says} className="mt-3 max-w-3xl text-ink-2">
            {says}
          </p>
        ))}
        {miss.working && <WorkingShown working={miss.working} />}
        <PaperWorking at={useFilesAt(miss.question.id)} />
        {miss.solution.length > 0 && (
          <Solution
            steps={miss.solution}
            source={miss.source}
            figure={miss.question.solution_figure}
            heading={t`Why`}
          />
        )}
        <p className="mt-5">
          <TextLink
            to={to(`/study/${miss.study.topic}#${miss.study.section}`)}
            className="font-semibold"
          >{t`Study: ${miss.study.title.charAt(0).toLowerCase() + miss.study.title.slice(1)}, ${miss.study.minutes} min`}</TextLink>
        </p>
      </div>
      <Actions miss={miss} />
    </div>
  )
}

const DRAWN = [
  'select_point',
  'position_object',
  'graph',
  'hotspot',
  'graphic_gap_match',
  'grid_shading',
  'slider',
  'drawing',
  'extended_text',
]

/** The question, and in place what was drawn; the comparison below tells the rest. */
function AsItWas({ miss }: { miss: Miss }) {
  const { question, given } = miss
  const parts = question.parts.filter((part) => DRAWN.includes(part.kind))
  const states = question.states.map((state) => ({
    ...state,
    state: 'noted' as const,
    right_answer: null,
    pieces: [],
  }))
  return (
    <QuestionView
      question={{ ...question, parts, states }}
      responses={given}
      onChange={() => undefined}
    />
  )
}

/** The answer given beside the right one, part by part, each with its sign and word. */
function Comparison({ rows }: { rows: Miss['comparison'] }) {
  const labelled = rows.some((row) => row.label)
  return (
    <table className="mt-6 w-full max-w-3xl border-collapse text-left text-[1.05rem]">
      <thead>
        <tr className="text-sm text-ink-2">
          {labelled && <td className="py-1.5 pr-4" />}
          <th scope="col" className="w-[58%] py-1.5 pr-4 font-normal">{t`Your answer`}</th>
          <th scope="col" className="min-w-24 py-1.5 font-normal">{t`Right answer`}</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr
            key={row.label + row.answered + row.right_answer}
            className="border-t border-line align-top"
          >
            {labelled && (
              <th scope="row" className="py-3 pr-4 font-semibold">
                {row.label}
              </th>
            )}
            <td className="py-3 pr-4">
              <span className="flex gap-2.5">
                {row.right !== null && <Sign kind={row.right ? 'right' : 'wrong'} />}
                <span>
                  {row.answered || 'nothing'}
                  {!row.right && row.says && (
                    <span className="mt-0.5 block text-base text-ink-2">{row.says}</span>
                  )}
                </span>
              </span>
            </td>
            <td className="py-3 font-semibold tabular-nums">
              {row.right_answer ?? t`shown when the question is closed`}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

function Actions({ miss }: { miss: Miss }) {
  const start = useStart()
  const course = useCourse()
  const to = useTo()
  const cache = useQueryClient()
  const navigate = useNavigate()
  const [asking, setAsking] = useState(false)
  const setAside = useMutation({
    mutationFn: () => setMissAside(course, miss.id),
    onSuccess: async () => {
      await cache.invalidateQueries({ queryKey: keys.misses(course) })
      navigate(to('/review'))
    },
  })
  const takeUp = useMutation({
    mutationFn: () => takeUpMiss(course, miss.id),
    onSuccess: (next) => {
      cache.setQueryData(keys.miss(course, miss.id), next)
      void cache.invalidateQueries({ queryKey: keys.course(course) })
    },
  })
  if (miss.state !== 'open')
    return (
      <div className="flex flex-wrap items-center gap-4 border-t border-line bg-sky px-5 py-4 @5xl:px-12">
        <p>{miss.state === 'mended' ? t`Corrected, with new numbers.` : t`You set this aside.`}</p>
        {miss.state === 'set_aside' && (
          <Button
            disabled={takeUp.isPending}
            onClick={() => takeUp.mutate()}
          >{t`Put it back on the list`}</Button>
        )}
        <Problem error={takeUp.error} />
      </div>
    )
  const error = start.error ?? setAside.error
  return (
    <BottomBar className="flex flex-wrap items-center gap-x-5 gap-y-2 bg-sky px-5 py-3.5 @5xl:px-12">
      <Button
        kind="strong"
        disabled={miss.mends_left === 0 || start.isPending}
        onClick={() => start.mutate({ purpose: 'missed', miss: miss.id })}
      >{t`Try it with new numbers`}</Button>
      <span className="min-w-0 flex-1 basis-60 text-ink-2">
        {miss.mend_note ?? t`If you get it right first time, it comes off your list.`}
      </span>
      <Button kind="quiet" onClick={() => setAsking(true)}>{t`Ask or report`}</Button>
      <Button
        kind="quiet"
        disabled={setAside.isPending}
        onClick={() => setAside.mutate()}
      >{t`Set aside`}</Button>
      {asking && (
        <Suspense>
          <AskSheet
            question={miss.question.id}
            answered
            worked={miss.working !== null}
            onClose={() => setAsking(false)}
          />
        </Suspense>
      )}
      {error && (
        <p role="alert" className="w-full text-wrong">
          {error.message}
        </p>
      )}
    </BottomBar>
  )
}
