import { t } from '@lingui/core/macro'
import { useMutation } from '@tanstack/react-query'
import { AddPart } from './AddPart'
import { ChipText } from './ChipText'
import { useFamily } from './context'
import { FigureField } from './FigureField'
import { Folded } from './Folded'
import { Judgements } from './Judgements'
import { type Given, nameFor, put, slotFor, type Things, textOf, variableFor } from './json'
import { Lines } from './Lines'
import { PartForm } from './PartForm'
import { renameVariable, type Workbench } from './queries'
import type { Fields, useDraft } from './useDraft'
import { Variables } from './Variables'
import { WrongAnswers } from './WrongAnswers'

interface Props {
  course: string
  draft: ReturnType<typeof useDraft>
  page: Workbench
  data: Fields
  variable: string | null
  onVariable: (name: string | null) => void
}

/** A question as its author writes it: what is asked, what varies, the answer, and what helps. */
export function FormSide({ course, draft, page, data, variable, onVariable }: Props) {
  const { problemAt } = useFamily()
  const set = (name: string, value: Given) => draft.setData(put(data, name, value))
  const variables = (data.variables ?? {}) as Things
  const parts = (Array.isArray(data.parts) ? data.parts : []) as unknown as Things[]
  const rename = useMutation({
    mutationFn: async (names: { old: string; new: string }) =>
      renameVariable(course, page.key, { version: await draft.settled(), ...names }),
    onSuccess: (reply, { new: name }) => {
      draft.stand(reply)
      onVariable(name)
    },
  })
  const vary = (text: string, before: string, whole: (slot: string) => string) => {
    const name = nameFor(before, Object.keys(variables))
    const prompt = `${whole(slotFor(name, text))}\n`
    draft.setData({ ...data, prompt, variables: { ...variables, [name]: variableFor(text) } })
    onVariable(name)
  }
  const foresee = (formula: string) => {
    const [first, ...rest] = parts
    if (!first) return
    const before = Array.isArray(first.near_misses) ? first.near_misses : []
    const near_misses = [...before, { answer: formula, says: t`Say what went wrong here.` }]
    set('parts', [{ ...first, near_misses }, ...rest] as never)
  }
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-7">
      <section aria-labelledby="asked">
        <h2 id="asked" className="text-xl">{t`The question`}</h2>
        <p className="mb-2 text-sm text-ink-2">{t`As it will be read.`}</p>
        <ChipText
          label={t`The question`}
          value={textOf(data.prompt).replace(/\n$/, '')}
          onChange={(text) => set('prompt', `${text}\n`)}
          lines
          large
          problem={problemAt('prompt')}
          onVary={vary}
        />
        <Variables
          variables={variables}
          chosen={variable}
          onChoose={onVariable}
          onChange={(next) => set('variables', Object.keys(next).length === 0 ? undefined : next)}
          onRename={(from, to) => rename.mutate({ old: from, new: to })}
          renaming={rename.error}
        />
      </section>
      {parts.map((part, place) => (
        <PartForm
          // biome-ignore lint/suspicious/noArrayIndexKey: ids are typed, so their place it is
          key={place}
          part={part}
          place={place}
          many={parts.length}
          onChange={(next) =>
            set(
              'parts',
              (next
                ? parts.map((one, i) => (i === place ? next : one))
                : parts.filter((_, i) => i !== place)) as never,
            )
          }
        />
      ))}
      <AddPart
        course={course}
        taken={parts.map(({ id }) => textOf(id))}
        full={parts.length >= 6}
        onAdd={(part) => set('parts', [...parts, part] as never)}
      />
      {page.published && (
        <Folded title={t`Common wrong answers`} open={false}>
          <WrongAnswers course={course} family={page.key} onForesee={foresee} />
        </Folded>
      )}
      <Lines
        name="hints"
        title={t`Hints`}
        label={t`Hints, the gentlest first`}
        add={t`Add a hint`}
        {...{ data, set }}
      />
      <Lines
        name="solution"
        title={t`Worked solution`}
        label={t`A line for each step`}
        add={t`Add a line`}
        open
        {...{ data, set }}
      />
      <Folded title={t`Figure`} open={problemAt('figure', true) !== undefined}>
        <FigureField
          field={{ as: 'figure', name: 'figure', label: t`A drawing with the question` }}
          value={data.figure}
          onChange={(next) => set('figure', next)}
          path="figure"
        />
      </Folded>
      <Judgements data={data} sections={page.sections} set={set} />
      <Lines
        name="constraints"
        title={t`Conditions`}
        label={t`Use only versions where`}
        add={t`Add a condition`}
        as="expression"
        {...{ data, set }}
      />
    </div>
  )
}
