import { t } from '@lingui/core/macro'
import { Link } from 'react-router'
import type { Kept } from '../account/useKept'
import { Button, buttonClass } from '../ui/Button'
import { Labelled, Problem, TextArea } from '../ui/Field'

interface FormProps {
  label: string
  /** What goes with it, and what becomes of it. */
  note: string
  action: string
  busy: boolean
  error: Error | null
  /** What is typed, kept until it is sent. */
  kept: Kept<string>
  onSend: (text: string) => void
}

/** Some words to be sent about a question. */
export function OneTextForm({ label, note, action, busy, error, kept, onSend }: FormProps) {
  const { value: text, set: setText } = kept
  return (
    <form
      className="mt-4 grid gap-4"
      onSubmit={(event) => {
        event.preventDefault()
        onSend(text)
      }}
    >
      <Labelled label={label}>
        <TextArea
          rows={4}
          required
          maxLength={4000}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      </Labelled>
      <p className="text-ink-2">{note}</p>
      <Button type="submit" kind="strong" className="justify-self-start" disabled={busy}>
        {action}
      </Button>
      <Problem error={error} />
    </form>
  )
}

/** That it is sent, with the way to the thread it began. */
export function Sent({
  says,
  back,
  thread,
  onClose,
}: {
  says: string
  back: string
  thread: number
  onClose: () => void
}) {
  return (
    <div className="mt-4" role="status">
      <p>{says}</p>
      <p className="mt-4 flex gap-3">
        <Button kind="strong" onClick={onClose}>
          {back}
        </Button>
        <Link to={`/threads/${thread}`} className={buttonClass('plain')}>{t`See it`}</Link>
      </p>
    </div>
  )
}
