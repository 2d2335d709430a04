import { t } from '@lingui/core/macro'
import { useEffect, useRef, useState } from 'react'
import { Button } from '../../ui/Button'
import { Sheet } from '../../ui/Sheet'
import { capital, counted } from '../../ui/words'

const QUALITY = 0.9

interface Props {
  open: boolean
  onClose: () => void
  onPicture: (picture: Blob) => void
  /** Pages that are in. */
  count: number
}

/** This computer's camera, to photograph one sheet after another. */
export function CameraSheet({ open, onClose, onPicture, count }: Props) {
  return (
    <Sheet open={open} onOpenChange={onClose} title={t`This computer’s camera`}>
      {open && <Camera onPicture={onPicture} count={count} />}
    </Sheet>
  )
}

function Camera({ onPicture, count }: Pick<Props, 'onPicture' | 'count'>) {
  const view = useRef<HTMLVideoElement>(null)
  const [state, setState] = useState<'asking' | 'on' | 'refused'>('asking')
  useEffect(() => {
    let stream: MediaStream | undefined
    let gone = false
    navigator.mediaDevices
      ?.getUserMedia({ video: { width: { ideal: 1920 }, facingMode: 'environment' } })
      .then((found) => {
        if (gone) for (const track of found.getTracks()) track.stop()
        stream = found
        if (view.current) view.current.srcObject = found
      })
      .catch(() => setState('refused'))
    if (!navigator.mediaDevices) setState('refused')
    return () => {
      gone = true
      for (const track of stream?.getTracks() ?? []) track.stop()
    }
  }, [])
  const take = () => {
    const video = view.current
    if (!video?.videoWidth) return
    const canvas = document.createElement('canvas')
    canvas.width = video.videoWidth
    canvas.height = video.videoHeight
    canvas.getContext('2d')?.drawImage(video, 0, 0)
    canvas.toBlob((picture) => picture && onPicture(picture), 'image/jpeg', QUALITY)
  }
  if (state === 'refused')
    return <p className="mt-4">{t`We can’t use a camera here. Add files, or use your phone.`}</p>
  return (
    <div className="mt-4 grid gap-3">
      <video
        ref={view}
        onPlaying={() => setState('on')}
        autoPlay
        playsInline
        muted
        className="w-full rounded-lg bg-rail"
      />
      <p className="flex flex-wrap items-center gap-4">
        <Button
          kind="strong"
          disabled={state !== 'on'}
          onClick={take}
        >{t`Photograph this sheet`}</Button>
        <span aria-live="polite">{t`${capital(counted(count, 'page'))} in`}</span>
      </p>
    </div>
  )
}
