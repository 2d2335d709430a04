import { Button } from './Button'

/** That something typed earlier is shown again, and the way to be rid of it. */
export function KeptNote({ restored, onDiscard }: { restored: boolean; onDiscard: () => void }) {
  if (!restored) return null
  return (
    <p role="status" className="my-2 flex flex-wrap items-center gap-x-3 text-part">
      This is what you typed before and did not save.
      <Button kind="quiet" onClick={onDiscard}>
        Throw it away
      </Button>
    </p>
  )
}
