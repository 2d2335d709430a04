import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useRef } from 'react'
import { useParams } from 'react-router'
import { keys } from '../../api/keys'
import { Button } from '../../ui/Button'
import { Problem } from '../../ui/Field'
import { Mark } from '../../ui/Mark'
import { Failed, Loading } from '../../ui/states'
import { useTitle } from '../../ui/useTitle'
import { capital, counted, hour } from '../../ui/words'
import { addFromPhone, phoneQuery } from './queries'
import { SampleSheets } from './SampleSheets'

/** What a phone shows that followed the code: nobody signs in, it only sends pages. */
export default function PhonePage() {
  const { token = '' } = useParams()
  const cache = useQueryClient()
  const query = useQuery({ ...phoneQuery(token), retry: false })
  const file = useRef<HTMLInputElement>(null)
  const send = useMutation({
    mutationFn: (picture: Blob) => addFromPhone(token, picture),
    onSuccess: (found) => cache.setQueryData(keys.phone(token), found),
  })
  useTitle(t`Pages of paper`)
  const standIn = new URLSearchParams(window.location.search).has('standin')
  return (
    <div className="min-h-dvh bg-sky">
      <header className="flex items-center gap-2 bg-deep px-4 py-3 text-on-deep">
        <Mark />
        <span className="font-heading text-lg">{t`Vendaval`}</span>
        {standIn && <span className="ml-auto text-sm text-on-deep-2">{t`stand-in phone`}</span>}
      </header>
      <main id="main" className="grid gap-4 p-4">
        {query.isPending && <Loading what={t`the link`} />}
        {query.error && <Failed error={query.error} retry={() => void query.refetch()} />}
        {query.data && (
          <>
            <div>
              <h1 className="text-2xl">{query.data.test}</h1>
              <p className="text-ink-2">{t`Pages of ${query.data.learner}. This link works until ${hour(query.data.until)}.`}</p>
            </div>
            <p aria-live="polite" className="text-lg font-semibold">
              {send.isPending ? t`Sending…` : `${capital(counted(query.data.pages, 'page'))} in`}
            </p>
            {standIn ? (
              <SampleSheets busy={send.isPending} onSheet={(sheet) => send.mutate(sheet)} />
            ) : (
              <>
                <Button
                  kind="strong"
                  disabled={send.isPending}
                  className="min-h-14 text-lg"
                  onClick={() => file.current?.click()}
                >{t`Photograph a sheet`}</Button>
                <input
                  ref={file}
                  type="file"
                  accept="image/*,application/pdf"
                  capture="environment"
                  aria-label={t`Photograph or file`}
                  tabIndex={-1}
                  className="sr-only"
                  onChange={(event) => {
                    const picture = event.target.files?.[0]
                    event.target.value = ''
                    if (picture) send.mutate(picture)
                  }}
                />
              </>
            )}
            <Problem error={send.error} />
            <p className="text-ink-2">{query.data.then}</p>
          </>
        )}
      </main>
    </div>
  )
}
