import { t } from '@lingui/core/macro'
import { lazy, Suspense, useState } from 'react'
import { useNavigate } from 'react-router'
import { useTo } from '../account/course'
import { StudySheet } from '../study/StudySheet'
import KeySheet from '../ui/KeySheet'
import { Sheet as SideSheet } from '../ui/Sheet'
import { useTitle } from '../ui/useTitle'
import { ACTIVITIES } from './descriptors'
import { Finished } from './Finished'
import { Rail } from './Rail'
import { RunTop } from './RunTop'
import type { Sheet } from './requests'
import { Stage } from './Stage'
import type { Opened } from './Strip'
import { useRun } from './useRun'
import { WhySheet } from './WhySheet'

const AskSheet = lazy(() => import('./AskSheet'))

const KEYS: [string, string][] = [
  [t`1 to 8`, t`Choose an answer`],
  ['Enter', t`Send the answer, then go on`],
  ['Esc', t`Leave the field, so that shortcuts work`],
  ['C', t`How sure you are, one step up`],
  [']', t`Next question`],
  ['H', t`Next hint`],
  ['N', t`Same idea, new numbers`],
  ['W', t`Show the working`],
  ['R', t`Read the study section`],
  ['T', t`I haven’t been taught this`],
  ['S', t`Swap to another topic`],
  ['A', t`Working area`],
  ['O', t`Read aloud, or stop`],
  ['Q', t`Ask for help, or report a problem`],
  ['V', t`Level and help, on a narrow screen`],
  ['Y', t`Why this question`],
  ['X', t`Undo changes to the answer`],
  ['L', t`Save and exit`],
  ['E', t`Stop here`],
  ['?', t`This sheet`],
]

/** One run: bar on top, stage and rail, tools at the bottom. */
export function RunScreen({ sheet }: { sheet: Sheet }) {
  const { run, question } = sheet
  const actions = useRun(sheet, question)
  const navigate = useNavigate()
  const to = useTo()
  const [open, setOpen] = useState<Opened | null>(null)
  const [read, setRead] = useState<number | null>(null)
  useTitle(question ? t`${run.title}, question ${question.number}` : run.title)
  const leave = () => navigate(to(ACTIVITIES[run.purpose].home))
  const close = () => setOpen(null)
  const rail = (beside: boolean) =>
    question && (
      <Rail
        sheet={sheet}
        question={question}
        actions={actions}
        onStudy={() => setOpen('study')}
        onWhy={() => setOpen('why')}
        beside={beside}
      />
    )
  return (
    <div className="flex min-h-dvh flex-col">
      <RunTop run={run} question={question} onLeave={leave} />
      {question ? (
        <div className="grid flex-1 grid-cols-[minmax(0,1fr)] @5xl:grid-cols-[minmax(0,1fr)_21rem]">
          <Stage
            key={question.id}
            sheet={sheet}
            question={question}
            actions={actions}
            read={read === question.id}
            onLeave={leave}
            onOpen={setOpen}
          />
          <aside aria-label={t`Level and help`} className="hidden bg-rail px-6 py-6 @5xl:block">
            {rail(true)}
          </aside>
        </div>
      ) : (
        <Finished run={run} />
      )}
      <KeySheet open={open === 'keys'} onOpenChange={close} keys={KEYS} />
      {question && (
        <>
          <SideSheet open={open === 'rail'} onOpenChange={close} title={t`Level and help`}>
            <div className="mt-4">{rail(false)}</div>
          </SideSheet>
          {open === 'ask' && (
            <Suspense>
              <AskSheet
                question={question.id}
                answered={!question.untouched}
                worked={!question.untouched}
                onClose={close}
              />
            </Suspense>
          )}
          <WhySheet open={open === 'why'} onOpenChange={close} question={question.id} />
          <StudySheet
            open={open === 'study'}
            onOpenChange={close}
            onOpened={() => run.study_first && setRead(question.id)}
            link={question.study}
          />
        </>
      )}
    </div>
  )
}
