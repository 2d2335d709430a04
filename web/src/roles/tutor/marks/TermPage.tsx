import { t } from '@lingui/core/macro'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useNavigate, useParams } from 'react-router'
import { ChangedNote } from '../../../account/ChangedNote'
import { useEdit } from '../../../account/useEdit'
import { keys } from '../../../api/keys'
import { Button } from '../../../ui/Button'
import { DateField } from '../../../ui/DateField'
import { fieldName, Problem, TextField } from '../../../ui/Field'
import { KeptNote } from '../../../ui/KeptNote'
import { Loaded } from '../../../ui/states'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'
import { Bands } from '../../common/Bands'
import { Pick } from '../../composing/Pick'
import { Categories } from './Categories'
import { Outside } from './Outside'
import { changeTerm, type MarkBook, markBookQuery } from './queries'
import { cleaned, type Term } from './term'
import { WorkPlaces } from './WorkPlaces'

/** What counts in a term: its days, its scale, categories, and where each piece of work goes. */
export default function TermPage() {
  const group = Number(useParams().group)
  const term = Number(useParams().term)
  const query = useQuery(markBookQuery(group, term))
  return (
    <Loaded query={query} what={t`the term`}>
      {(book) => <Opened group={group} book={book} />}
    </Loaded>
  )
}

const STEPS: [string, string][] = [
  ['1', t`whole marks`],
  ['1/2', t`half marks`],
  ['1/10', t`tenths`],
]

function Opened({ group, book }: { group: number; book: MarkBook }) {
  useTitle(t`What counts in ${book.term.title}`)
  const cache = useQueryClient()
  const navigate = useNavigate()
  const home = `/tutor/groups/${group}/marks/${book.term.id}`
  const edit = useEdit<Term, MarkBook>({
    place: `term:${book.term.id}`,
    opened: book.edit,
    version: book.version,
    save: (form, version) => changeTerm(group, book.term.id, { ...cleaned(form), version }),
    stands: () => null,
    onSaved: (next) => {
      cache.setQueryData(keys.markBook(group, next.term.id), next)
      void cache.invalidateQueries({ queryKey: keys.terms(group) })
      navigate(home)
    },
    whole: ['book.categories', 'book.bands', 'book.outside', 'book.placed'],
  })
  const { form: now, set: change } = edit
  const own = now.book
  const set = (next: Partial<Term['book']>) => change({ book: { ...own, ...next } })
  return (
    <main id="main" className="max-w-5xl px-5 py-8 @5xl:px-8">
      <p>
        <TextLink to={home}>{t`Marks`}</TextLink>
      </p>
      <h1 className="text-3xl">{t`What counts in ${book.term.title}`}</h1>
      <KeptNote restored={edit.restored} onDiscard={edit.discard} />
      <form
        className="mt-5 grid gap-7"
        onSubmit={(event) => {
          event.preventDefault()
          edit.save()
        }}
      >
        <div className="flex flex-wrap items-end gap-4">
          <TextField
            label={t`Name of the term`}
            value={now.title}
            required
            maxLength={60}
            onText={(title) => change({ title })}
            fieldWidth="w-64"
          />
          <DateField
            label={t`First day`}
            day={now.begins}
            onDay={(day) => day && change({ begins: day })}
          />
          <DateField
            label={t`Last day`}
            day={now.ends}
            onDay={(day) => day && change({ ends: day })}
          />
        </div>
        <section aria-label={t`Categories`}>
          <h2 className="text-xl">{t`Categories`}</h2>
          <p className="text-ink-2">{t`Weights are parts of a whole and needn’t add up to 100. Within a category each piece of work counts the same.`}</p>
          <Categories book={own} onChange={set} />
          <div className="mt-4 flex">
            <Pick
              label={t`Missing work`}
              options={[
                ['nothing', t`counts for nothing`],
                ['zero', t`counts as 0`],
              ]}
              value={own.missing}
              onChange={(missing) => set({ missing: missing as Term['book']['missing'] })}
            />
          </div>
        </section>
        <section aria-label={t`Work in this term`}>
          <h2 className="text-xl">{t`Work in this term`}</h2>
          <WorkPlaces columns={book.columns} book={own} onChange={set} />
        </section>
        <section aria-label={t`Work from outside`}>
          <h2 className="text-xl">{t`Work from outside`}</h2>
          <p className="text-ink-2">{t`An oral, a practical or anything else you mark yourself. Its marks count once learners can see them.`}</p>
          <Outside book={own} onChange={set} />
        </section>
        <section aria-label={t`Scale`}>
          <h2 className="text-xl">{t`Scale`}</h2>
          <div className="mt-1 flex flex-wrap items-end gap-4">
            <TextField
              label={t`Highest mark`}
              type="number"
              min={1}
              max={100}
              value={own.most}
              required
              onText={(text) => set({ most: Number(text) || 0 })}
              fieldWidth="w-24"
            />
            <Pick
              label={t`Rounded to`}
              options={STEPS}
              value={own.step}
              onChange={(step) => set({ step })}
            />
            <TextField
              label={t`Pass mark (empty for none)`}
              value={own.pass_mark ?? ''}
              inputMode="decimal"
              onText={(text) => set({ pass_mark: text === '' ? null : text })}
              fieldWidth="w-24"
            />
          </div>
          <div className="mt-4">
            <Bands
              bands={own.bands}
              unit={t`of ${own.most}`}
              onChange={(bands) => set({ bands })}
            />
          </div>
        </section>
        <ChangedNote conflict={edit.conflict} label={fieldName} />
        <div className="sticky bottom-0 flex max-h-[25dvh] flex-wrap items-center gap-4 overflow-y-auto border-line border-t bg-sky py-3">
          <Button type="submit" kind="strong" disabled={edit.isPending}>{t`Save`}</Button>
          <TextLink to={home}>{t`Back without saving`}</TextLink>
          <Problem error={edit.error} />
        </div>
      </form>
    </main>
  )
}
