import { t } from '@lingui/core/macro'
import type { Schemas } from '../../api/client'
import { Check } from '../../ui/Check'
import { fieldClass, Labelled } from '../../ui/Field'
import { ComposeMarks } from './ComposeMarks'
import { Pick, Wrong } from './Pick'

type Rules = Schemas['RulesData']
type When = Schemas['When']

interface Props {
  rules: Rules
  problems: Record<string, string>
  onChange: (rules: Rules) => void
}

const WHEN: [When, string][] = [
  ['at_once', t`at once`],
  ['handed_in', t`after handing in`],
  ['due', t`after the due date`],
  ['closed', t`after closing`],
  ['last_attempt', t`after the last attempt`],
  ['marks_out', t`when marks are released`],
  ['never', 'never'],
]
const TOLD = [
  ['score', t`Points`],
  ['correctness', t`Right and wrong`],
  ['answers', t`Right answers`],
  ['solutions', t`Worked solutions`],
] as const
const TOOLS = [
  ['working', t`working area`],
  ['notes', 'notes'],
  ['marker', t`highlighter`],
  ['strike_out', t`crossing out choices`],
  ['aloud', t`reading aloud`],
  ['calculator', 'calculator'],
  ['scientific', t`scientific calculator`],
  ['ruler', 'ruler'],
  ['protractor', 'protractor'],
] as const
const USUAL: Rules['tools'] = ['working', 'notes', 'marker', 'strike_out', 'aloud']
const PARTS: [string, string][] = [
  ['0', 'nothing'],
  ['1/10', t`a tenth`],
  ['1/4', t`a quarter`],
  ['1/3', t`a third`],
  ['1/2', 'half'],
  ['1', t`all of it`],
]

/** Every rule with its values; what cannot be together is said at the field. */
export function ComposeRules({ rules, problems, onChange }: Props) {
  const set = (next: Partial<Rules>) => onChange({ ...rules, ...next })
  const told = rules.release ?? {}
  const tools = rules.tools ?? USUAL ?? []
  const pick = <K extends keyof Rules>(
    name: K,
    label: string,
    options: [string, string][],
    value: string,
    parse: (text: string) => Rules[K],
  ) => (
    <Pick
      label={label}
      options={options}
      value={value}
      problem={problems[`rules.${name}`]}
      onChange={(text) => set({ [name]: parse(text) } as Partial<Rules>)}
    />
  )
  const number = (text: string) => (text === '' ? null : Number(text))
  return (
    <section aria-labelledby="rules" className="mt-8">
      <h2 id="rules" className="text-xl">{t`Rules`}</h2>
      <div className="mt-2 grid gap-x-6 gap-y-4 @xl:grid-cols-2 @4xl:grid-cols-3">
        {pick(
          'attempts',
          t`Attempts`,
          [
            ['1', 'one'],
            ['2', 'two'],
            ['3', 'three'],
            ['5', 'five'],
            ['', t`no limit`],
          ],
          rules.attempts === undefined ? '1' : String(rules.attempts ?? ''),
          number,
        )}
        {pick(
          'score_kept',
          t`Which attempt counts`,
          [
            ['first', t`the first`],
            ['best', t`the best`],
            ['latest', t`the latest`],
            ['mean', t`the average`],
          ],
          rules.score_kept ?? 'first',
          (text) => text as Rules['score_kept'],
        )}
        {pick(
          'navigation',
          t`Order`,
          [
            ['nonlinear', t`any order`],
            ['linear', t`forward only`],
          ],
          rules.navigation ?? 'nonlinear',
          (text) => text as Rules['navigation'],
        )}
        {pick(
          'submission',
          t`Marked`,
          [
            ['simultaneous', t`all at hand-in`],
            ['individual', t`each question by itself`],
          ],
          rules.submission ?? 'simultaneous',
          (text) => text as Rules['submission'],
        )}
        {pick(
          'tries',
          t`Tries per question`,
          ['1', '2', '3', '4', '5'].map((n) => [n, n]),
          String(rules.tries ?? 1),
          (text) => Number(text),
        )}
        {pick(
          'off_per_miss',
          t`Each wrong try costs`,
          PARTS,
          rules.off_per_miss ?? '0',
          (text) => text,
        )}
        {pick(
          'off_wrong',
          t`Each wrong choice costs`,
          PARTS,
          rules.off_wrong ?? '0',
          (text) => text,
        )}
        <Labelled label={t`Time limit in minutes (empty: none)`}>
          <input
            type="number"
            min={1}
            max={600}
            className={fieldClass}
            value={rules.minutes ?? ''}
            onChange={(event) => set({ minutes: number(event.target.value) })}
          />
          <Wrong says={problems['rules.minutes']} />
        </Labelled>
        {pick(
          'clock',
          t`If the learner leaves, the clock`,
          [
            ['runs_on', t`keeps running`],
            ['stops', 'stops'],
          ],
          rules.clock ?? 'runs_on',
          (text) => text as Rules['clock'],
        )}
        {pick(
          'late',
          t`Late work is`,
          [
            ['not_taken', t`not accepted`],
            ['taken', t`accepted until closing`],
            ['less', t`accepted, with a penalty`],
          ],
          rules.late ?? 'not_taken',
          (text) => text as Rules['late'],
        )}
        {pick('late_off', t`Late penalty per day`, PARTS, rules.late_off ?? '0', (text) => text)}
        {pick(
          'working',
          t`Working required`,
          [
            ['none', t`for no question`],
            ['chosen', t`for those marked`],
            ['all', t`for every question`],
          ],
          rules.working ?? 'none',
          (text) => text as Rules['working'],
        )}
      </div>
      <div className="mt-3 flex flex-wrap gap-x-8">
        <Check
          on={rules.one_sitting ?? false}
          set={(on) => set({ one_sitting: on })}
        >{t`leaving hands in the test`}</Check>
        <Check
          on={rules.open_book ?? false}
          set={(on) => set({ open_book: on })}
        >{t`open book`}</Check>
      </div>
      <fieldset className="mt-5">
        <legend className="font-semibold">{t`What learners see`}</legend>
        <div className="mt-1 flex flex-wrap gap-x-6 gap-y-4">
          {TOLD.map(([name, label]) => (
            <Pick
              key={name}
              label={label}
              options={WHEN}
              value={told[name] ?? 'handed_in'}
              problem={problems[`rules.release.${name}`]}
              onChange={(text) => set({ release: { ...told, [name]: text } as Rules['release'] })}
            />
          ))}
        </div>
      </fieldset>
      <ComposeMarks rules={rules} problems={problems} onChange={set} />
      <fieldset className="mt-5">
        <legend className="font-semibold">{t`Tools`}</legend>
        <div className="flex flex-wrap gap-x-8">
          {TOOLS.map(([key, label]) => (
            <Check
              key={key}
              on={tools.includes(key)}
              set={(on) =>
                set({ tools: on ? [...tools, key] : tools.filter((one) => one !== key) })
              }
            >
              {label}
            </Check>
          ))}
        </div>
      </fieldset>
    </section>
  )
}
