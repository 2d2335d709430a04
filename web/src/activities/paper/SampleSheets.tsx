import { Button } from '../../ui/Button'

const WIDTH = 840
const HEIGHT = 1188

interface Sample {
  name: string
  lines: string[]
  sideways?: boolean
}

const SAMPLES: Sample[] = [
  {
    name: 'Sheet 1, a passage in words',
    lines: [
      'Sheet 1',
      '',
      'Off the berth at half flood, to the fairway',
      'buoy under engine. Then 065 for 4.2 miles.',
      'Keep the rock awash to the south until the',
      'tower bears 310, then round up for the bay.',
    ],
  },
  {
    name: 'Sheet 2, worked figures',
    lines: [
      'Sheet 2',
      '',
      'leg 1   3.5 mi at 5 kn     42 min',
      'leg 2   4.2 mi at 5 kn     50 min',
      'stream against on leg 2, + 8 min',
      'in all                    100 min',
    ],
  },
  {
    name: 'Sheet 3, photographed sideways',
    lines: ['Sheet 3', '', 'a sketch of the entrance', 'with two marks in line'],
    sideways: true,
  },
]

/** A sheet as a photograph of it would be. */
function photograph(sample: Sample): Promise<Blob | null> {
  const canvas = document.createElement('canvas')
  canvas.width = sample.sideways ? HEIGHT : WIDTH
  canvas.height = sample.sideways ? WIDTH : HEIGHT
  const pen = canvas.getContext('2d')
  if (!pen) return Promise.resolve(null)
  pen.fillStyle = '#f6f2e8'
  pen.fillRect(0, 0, canvas.width, canvas.height)
  if (sample.sideways) {
    pen.translate(0, WIDTH)
    pen.rotate(-Math.PI / 2)
  }
  pen.strokeStyle = '#cfd9e4'
  for (let y = 150; y < HEIGHT; y += 54) {
    pen.beginPath()
    pen.moveTo(40, y)
    pen.lineTo(WIDTH - 40, y)
    pen.stroke()
  }
  pen.fillStyle = '#1d2f57'
  pen.font = 'italic 34px cursive'
  sample.lines.forEach((line, index) => {
    pen.fillText(line, 70, 140 + index * 54)
  })
  return new Promise((done) => canvas.toBlob(done, 'image/jpeg', 0.9))
}

/** The stand-in phone's camera: a press photographs a sample sheet. */
export function SampleSheets({ busy, onSheet }: { busy: boolean; onSheet: (sheet: Blob) => void }) {
  return (
    <section aria-label="Sample sheets" className="grid gap-2">
      {SAMPLES.map((sample) => (
        <Button
          key={sample.name}
          disabled={busy}
          className="min-h-14"
          onClick={async () => {
            const sheet = await photograph(sample)
            if (sheet) onSheet(sheet)
          }}
        >
          {sample.name}
        </Button>
      ))}
    </section>
  )
}
