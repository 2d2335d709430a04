"""Draw the demo course's short film, the rule of twelfths, and record it with the browser."""

from __future__ import annotations

import base64
import sys
from pathlib import Path

from playwright.sync_api import sync_playwright

ROOT = Path(__file__).resolve().parents[1]
FILM = ROOT / "packs/inshore/topics/height-at-a-time/resources/twelfths.webm"
DRAW = """
async () => {
  const canvas = Object.assign(document.createElement('canvas'), { width: 640, height: 360 })
  document.body.append(canvas)
  const ink = canvas.getContext('2d')
  const rise = [1, 2, 3, 3, 2, 1]
  const length = 18000
  const paint = (time) => {
    ink.fillStyle = '#eef3f6'
    ink.fillRect(0, 0, 640, 360)
    const hours = Math.max(0, Math.min(6, (time - 1500) / 2400))
    const whole = Math.floor(hours)
    const part = whole < 6 ? rise[whole] * (hours - whole) : 0
    const twelfths = rise.slice(0, whole).reduce((a, b) => a + b, 0) + part
    ink.fillStyle = '#8fb6dd'
    ink.fillRect(60, 310 - 20 * twelfths, 130, 20 * twelfths)
    ink.strokeStyle = '#12232e'
    ink.lineWidth = 2
    ink.strokeRect(60, 70, 130, 240)
    ink.font = '600 17px sans-serif'
    ink.fillStyle = '#12232e'
    ink.fillText('high water', 200, 76)
    ink.fillText('low water', 200, 316)
    ink.font = '600 24px sans-serif'
    ink.fillText(`${whole} h after low water`, 340, 120)
    ink.fillText(`${Math.floor(twelfths + 1e-6)} of 12 twelfths`, 340, 156)
    rise.forEach((n, i) => {
      ink.fillStyle = i < hours ? '#2466a8' : '#dbe4ea'
      ink.fillRect(340 + 44 * i, 290 - 30 * n, 36, 30 * n)
      ink.fillStyle = '#12232e'
      ink.fillText(String(n), 350 + 44 * i, 318)
    })
  }
  paint(0)
  const stream = canvas.captureStream(12)
  const kind = { mimeType: 'video/webm;codecs=vp9', videoBitsPerSecond: 500000 }
  const recorder = new MediaRecorder(stream, kind)
  const pieces = []
  recorder.ondataavailable = (event) => pieces.push(event.data)
  const ended = new Promise((done) => { recorder.onstop = done })
  recorder.start()
  const begun = performance.now()
  await new Promise((done) => {
    const step = () => {
      const time = performance.now() - begun
      paint(time)
      if (time < length) setTimeout(step, 60)
      else done()
    }
    step()
  })
  recorder.stop()
  await ended
  const bytes = new Uint8Array(await new Blob(pieces).arrayBuffer())
  let text = ''
  for (const byte of bytes) text += String.fromCharCode(byte)
  return btoa(text)
}
"""


def main() -> int:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(
            executable_path="/usr/bin/chromium-headless-shell",
            args=["--no-sandbox", "--disable-gpu"],
        )
        film = base64.b64decode(browser.new_page().evaluate(DRAW))
        browser.close()
    FILM.parent.mkdir(parents=True, exist_ok=True)
    FILM.write_bytes(film)
    print(f"{FILM.relative_to(ROOT)}: {len(film)} bytes")
    return 0


if __name__ == "__main__":
    sys.exit(main())
