import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useParams } from 'react-router'
import { useKept } from '../../account/useKept'
import { api, call, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Button } from '../../ui/Button'
import { Labelled, Problem, TextArea } from '../../ui/Field'
import { Loaded } from '../../ui/states'
import { useTitle } from '../../ui/useTitle'
import { moment } from '../../ui/words'
import { Back } from './Back'
import { talksQuery } from './queries'

type Talk = Schemas['TalkOut']

/** What a guardian and the tutors write to one another about a learner. */
export default function TalkPage({ home }: { home: string }) {
  const id = Number(useParams().learner)
  const query = useQuery(talksQuery(id))
  const tutor = home === '/tutor'
  useTitle(tutor ? t`Guardians` : t`To the tutor`)
  return (
    <main id="main" className="max-w-3xl px-5 py-8 @5xl:px-8">
      <Back id={id} home={home} />
      <Loaded query={query} what={t`what was written`}>
        {({ learner, tutors, talks }) => (
          <>
            <h1 className="text-3xl">
              {tutor ? t`With ${learner}’s guardians` : t`With ${learner}’s tutor`}
            </h1>
            <p className="mt-1 text-ink-2">
              {tutor
                ? t`${learner} can’t read this.`
                : t`${tutors.join(' and ') || t`Nobody`} ${tutors.length > 1 ? 'read' : 'reads'} this. ${learner} doesn’t.`}
            </p>
            {talks.length === 0 && <p className="mt-5">{t`No guardian is linked.`}</p>}
            {talks.map((talk) => (
              <OneTalk key={talk.guardian} learner={id} talk={talk} tutor={tutor} />
            ))}
          </>
        )}
      </Loaded>
    </main>
  )
}

function OneTalk({ learner, talk, tutor }: { learner: number; talk: Talk; tutor: boolean }) {
  const place = `talk:${learner}:${talk.guardian}`
  const { value: text, set: setText, saved } = useKept(place, () => '')
  const cache = useQueryClient()
  const write = useMutation({
    mutationFn: () =>
      call(
        api.POST('/api/learners/{enrolment_id}/talks', {
          params: { path: { enrolment_id: learner } },
          body: { text, guardian: tutor ? talk.guardian : null },
        }),
      ),
    onSuccess: (next) => {
      saved('')
      cache.setQueryData(keys.talks(learner), next)
      void cache.invalidateQueries({ queryKey: keys.waitingTalks })
    },
  })
  return (
    <section className="mt-6" aria-label={tutor ? talk.name : t`To the tutor`}>
      {tutor && (
        <h2 className="text-xl">
          {talk.name}
          {talk.waits && <span className="text-base text-part"> {t`waiting for an answer`}</span>}
        </h2>
      )}
      <ol className="mt-2 grid gap-3">
        {talk.posts.map((post) => (
          <li key={post.id} className={`rounded-box p-4 ${post.own ? 'bg-gust-soft' : 'bg-sheet'}`}>
            <p className="text-sm text-ink-2">
              {post.own ? t`You` : post.author || t`Someone who has left`}, {moment(post.at)}
            </p>
            <p className="mt-1 whitespace-pre-wrap">{post.text}</p>
          </li>
        ))}
      </ol>
      <form
        className="mt-4 grid justify-items-start gap-3"
        onSubmit={(event) => {
          event.preventDefault()
          write.mutate()
        }}
      >
        <Labelled
          label={tutor ? t`Write to ${talk.name}` : t`Write to the tutor`}
          className="w-full"
        >
          <TextArea
            required
            rows={3}
            maxLength={4000}
            value={text}
            disabled={write.isPending}
            onChange={(event) => setText(event.target.value)}
          />
        </Labelled>
        <Button
          type="submit"
          kind="strong"
          disabled={write.isPending || !text.trim()}
        >{t`Send`}</Button>
        <Problem error={write.error} />
      </form>
    </section>
  )
}
