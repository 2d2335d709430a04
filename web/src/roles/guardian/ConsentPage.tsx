import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, call, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Button } from '../../ui/Button'
import { Problem } from '../../ui/Field'
import { Loaded } from '../../ui/states'
import { useTitle } from '../../ui/useTitle'
import { longDay } from '../../ui/words'
import { consentsQuery } from './consent'

/** What a guardian is asked about young learners, and what they said. */
export default function ConsentPage() {
  useTitle(t`Consent`)
  const query = useQuery(consentsQuery)
  return (
    <main id="main" className="max-w-3xl px-5 py-8 @5xl:px-8">
      <Loaded query={query} what={t`what you are asked`}>
        {({ consents }) => (
          <>
            <h1 className="text-3xl">
              {consents.some((one) => one.waits) ? t`We need your consent` : t`Consent`}
            </h1>
            {consents.length === 0 && <p className="mt-2">{t`Nothing needs your consent.`}</p>}
            {consents.map((one) => (
              <Asked key={one.id} one={one} />
            ))}
          </>
        )}
      </Loaded>
    </main>
  )
}

function Asked({ one }: { one: Schemas['ConsentOut'] }) {
  const cache = useQueryClient()
  const say = useMutation({
    mutationFn: (agreed: boolean) =>
      call(
        api.PUT('/api/consents/{link_id}', {
          params: { path: { link_id: one.id } },
          body: { agreed },
        }),
      ),
    onSuccess: (next) => cache.setQueryData(keys.consents, next),
  })
  return (
    <section className="mt-6 rounded-box bg-sheet p-5">
      <h2 className="text-xl">{one.learner}</h2>
      <p className="mt-2">{one.wording}</p>
      <p role="status" className="mt-3 text-ink-2">
        {one.agreed === null
          ? t`The account won’t work until you agree.`
          : t`You ${one.agreed ? 'agreed' : t`withdrew your consent`} on ${longDay(one.at ?? '')}.`}
      </p>
      <div className="mt-3">
        {one.agreed ? (
          <Button
            disabled={say.isPending}
            onClick={() => say.mutate(false)}
          >{t`Withdraw consent`}</Button>
        ) : (
          <Button
            kind="strong"
            disabled={say.isPending}
            onClick={() => say.mutate(true)}
          >{t`I agree`}</Button>
        )}
      </div>
      <Problem error={say.error} />
    </section>
  )
}
