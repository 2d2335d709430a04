import { t } from '@lingui/core/macro'
import { useRef, useState } from 'react'
import type { Schemas } from '../api/client'
import { Button } from '../ui/Button'

type Blast = Schemas['SoundOut']['blasts'][number]

const SECONDS: Record<Blast, number> = { short: 1, long: 4.5, gap: 1.6, bell: 1.5, gong: 2.5 }
const PITCH: Record<Blast, number> = { short: 240, long: 240, gap: 0, bell: 880, gong: 180 }

/** Plays blasts made in the browser; nothing is recorded. Returns when they end, in seconds. */
function play(context: AudioContext, blasts: Blast[]): number {
  let at = context.currentTime + 0.05
  for (const blast of blasts) {
    const length = SECONDS[blast]
    if (PITCH[blast] > 0) {
      const horn = context.createOscillator()
      const gain = context.createGain()
      horn.type = blast === 'bell' || blast === 'gong' ? 'sine' : 'sawtooth'
      horn.frequency.value = PITCH[blast]
      gain.gain.setValueAtTime(0.0001, at)
      gain.gain.exponentialRampToValueAtTime(0.25, at + 0.04)
      gain.gain.setValueAtTime(0.25, at + length * (blast === 'bell' ? 0.05 : 0.9))
      gain.gain.exponentialRampToValueAtTime(0.0001, at + length)
      horn.connect(gain).connect(context.destination)
      horn.start(at)
      horn.stop(at + length)
    }
    at += length + 0.5
  }
  return at - context.currentTime
}

/** A sound signal with its text alternative where the author allows one. */
export function Sound({ sound }: { sound: Schemas['SoundOut'] }) {
  const [playing, setPlaying] = useState(false)
  const [words, setWords] = useState(false)
  const context = useRef<AudioContext | null>(null)
  const start = () => {
    context.current ??= new AudioContext()
    void context.current.resume()
    setPlaying(true)
    window.setTimeout(() => setPlaying(false), 1000 * play(context.current, sound.blasts))
  }
  return (
    <div className="mt-4 flex flex-wrap items-center gap-3">
      <Button onClick={start} disabled={playing}>
        {playing ? t`Playing…` : t`Play the signal`}
      </Button>
      {sound.words && (
        <Button kind="quiet" onClick={() => setWords(!words)} aria-expanded={words}>
          {words ? t`Hide the words` : t`Show in words`}
        </Button>
      )}
      {words && <p className="w-full text-lg">{sound.words}</p>}
    </div>
  )
}
