import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { Link, useNavigate, useParams } from 'react-router'
import { useCourse, useTo } from '../../../account/course'
import type { Schemas } from '../../../api/client'
import { keys } from '../../../api/keys'
import { Button, buttonClass } from '../../../ui/Button'
import { Problem } from '../../../ui/Field'
import { Sign } from '../../../ui/Sign'
import { Loaded } from '../../../ui/states'
import { useTitle } from '../../../ui/useTitle'
import { counted } from '../../../ui/words'
import { endSpell, goOnSpell, spellQuery } from '../queries'

type Spell = Schemas['SpellOut']
type Piece = Schemas['SpellPieceOut']

export default function SpellPage() {
  const query = useQuery(spellQuery(useCourse(), Number(useParams().id)))
  return (
    <Loaded query={query} what={t`your minutes`}>
      {(spell) => <Opened spell={spell} />}
    </Loaded>
  )
}

/** A spell of work: its pieces, the one at hand, and the way on. */
function Opened({ spell }: { spell: Spell }) {
  useTitle(`${spell.minutes} min`)
  const course = useCourse()
  const to = useTo()
  const cache = useQueryClient()
  const navigate = useNavigate()
  const took = (next: Spell) => {
    cache.setQueryData(keys.spell(course, next.id), next)
    void cache.invalidateQueries({ queryKey: keys.course(course) })
    return next
  }
  const next = useMutation({
    mutationFn: () => goOnSpell(course, spell.id, spell.current ?? 0),
    onSuccess: (after) => {
      took(after)
      const run = after.current === null ? null : after.pieces[after.current]?.run
      if (run) navigate(to(`/run/${run}`))
    },
  })
  const end = useMutation({ mutationFn: () => endSpell(course, spell.id), onSuccess: took })
  const now = spell.current === null ? undefined : spell.pieces[spell.current]
  const done = spell.pieces.filter((piece) => piece.state === 'done').length
  const last = spell.minutes_left === 0 || !spell.pieces.some((piece) => piece.state === 'waiting')
  return (
    <main id="main" className="max-w-3xl px-5 py-8 @5xl:px-8">
      <h1 className="text-3xl">
        {spell.ended
          ? t`${done} of ${spell.pieces.length} done`
          : spell.minutes_left > 0
            ? t`${spell.minutes} min, about ${spell.minutes_left} left`
            : t`Your ${spell.minutes} min are over`}
      </h1>
      <p className="mt-1 text-ink-2">
        {spell.ended
          ? t`Everything is saved. See it under Topics.`
          : t`The clock stops when you take a break. You can leave at any time and continue from Today.`}
      </p>
      <ol className="mt-5">
        {spell.pieces.map((piece, i) => (
          <Line
            key={piece.kind + piece.title + String(piece.run)}
            piece={piece}
            now={i === spell.current}
          />
        ))}
      </ol>
      {spell.ended ? (
        <Link
          to={to('/')}
          className={`${buttonClass('strong')} mt-6`}
        >{t`See what comes next`}</Link>
      ) : (
        <div className="mt-6 flex flex-wrap gap-3">
          <Button kind="strong" disabled={next.isPending} onClick={() => next.mutate()}>
            {last ? t`Finish` : t`Next task`}
          </Button>
          {now && <At piece={now} />}
          <Button
            kind="quiet"
            disabled={end.isPending}
            onClick={() => end.mutate()}
          >{t`Stop here`}</Button>
        </div>
      )}
      <Problem error={next.error ?? end.error} />
    </main>
  )
}

function At({ piece }: { piece: Piece }) {
  const to = useTo()
  if (piece.study)
    return (
      <Link
        to={to(`/study/${piece.study.topic}#${piece.study.section}`)}
        className={buttonClass('plain')}
      >{t`Read it`}</Link>
    )
  if (piece.run === null) return null
  return (
    <Link
      to={to(`/run/${piece.run}`)}
      className={buttonClass('plain')}
    >{t`Go back to this one`}</Link>
  )
}

const STATE = { waiting: '', begun: t`now`, done: 'done', passed: t`skipped` } as const

function Line({ piece, now }: { piece: Piece; now: boolean }) {
  return (
    <li
      aria-current={now ? 'step' : undefined}
      className={`grid grid-cols-[2rem_3.75rem_minmax(0,1fr)_auto] gap-x-3 border-b border-line py-3 ${
        now ? 'border-l-4 border-l-sun pl-3' : ''
      }`}
    >
      <span>{piece.state === 'done' && <Sign kind="right" size={20} word={false} />}</span>
      <span className="text-ink-2 tabular-nums">{t`${piece.minutes} min`}</span>
      <span>
        <span className="font-semibold">{piece.title}</span>
        {piece.questions > 1 && (
          <span className="text-ink-2">, {counted(piece.questions, 'question')}</span>
        )}
        <span className="block text-ink-2">{piece.why}</span>
      </span>
      <span className="text-sm text-ink-2">{STATE[piece.state]}</span>
    </li>
  )
}
