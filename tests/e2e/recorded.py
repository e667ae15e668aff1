"""A camera and a microphone made by the page itself, for stories told of recording: what they show and hear is known."""

import tempfile
from pathlib import Path

import av
import numpy as np
from playwright.sync_api import Page, expect

from hovvet.core.media.decode import sound
from tests.core.test_outside import wait_until
from tests.e2e.base import PATIENCE, BrowserCase
from tests.media import DEMO, write_wav

RATE = 48_000
FRAMES = 25  # a second

# Once a second the picture is white and a click is heard, both by the clock of the sound. Sound that a page makes is stamped
# with when it would leave the speakers (of Chromium's own fake microphone there is no such delay), so the picture is drawn by that
# clock too, on its whole frames. `say` plays a file to the microphone, `lose` unplugs, `refused` is the name of an error that
# opening gives.
_DEVICES = """() => {
  let context, room
  const started = () => {
    if (context) return
    context = new AudioContext()
    room = context.createMediaStreamDestination()
    const hush = new ConstantSourceNode(context, { offset: 1e-5 })
    hush.connect(room)
    hush.start()
  }
  let late = 0
  const stamped = () => context.currentTime - (late || context.outputLatency)
  window.drawn = 0
  window.say = async (url) => {
    const buffer = await context.decodeAudioData(await (await fetch(url)).arrayBuffer())
    const source = new AudioBufferSourceNode(context, { buffer })
    source.connect(room)
    const over = new Promise((done) => source.addEventListener('ended', done))
    source.start()
    await over
  }
  window.clicks = (count) => {
    const first = Math.ceil(context.currentTime) + 1
    late = context.outputLatency
    window.flashes = [first, first + count]
    for (let n = 0; n < count; n++) {
      const tone = new OscillatorNode(context, { frequency: 1000 })
      tone.connect(room)
      tone.start(first + n)
      tone.stop(first + n + 0.03)
    }
  }
  const picture = () => {
    const canvas = Object.assign(document.createElement('canvas'), { width: 640, height: 360 })
    const pen = canvas.getContext('2d')
    const draw = () => {
      const at = Math.round(stamped() * 25) / 25, [from, to] = window.flashes ?? [0, 0]
      const white = at >= from - 0.5 && at < to && at % 1 < 0.2
      pen.fillStyle = white ? '#fff' : '#406080'
      pen.fillRect(0, 0, 640, 360)
      pen.fillStyle = '#c08040'
      pen.fillRect(20, 20, 200, 200)
      pen.fillStyle = window.drawn++ % 2 ? '#000' : '#888'
      pen.fillRect(600, 320, 40, 40)
    }
    const worker = new Worker(URL.createObjectURL(new Blob([`onmessage = ({ data }) => setTimeout(postMessage, data, 0)`])))
    const next = () => {
      draw()
      const since = (1000 * stamped()) % 40
      worker.postMessage((since < 20 ? 40 : 80) - since)
    }
    worker.onmessage = next
    next()
    return canvas.captureStream()
  }
  const opened = []
  window.lose = (kind) => {
    for (const track of opened.filter((each) => each.kind === kind)) {
      track.stop()
      track.dispatchEvent(new Event('ended'))
    }
  }
  const open = async (stream) => {
    opened.push(...stream.getTracks())
    return stream
  }
  navigator.mediaDevices.getUserMedia = async ({ audio }) => {
    if (window.refused) throw new DOMException('', window.refused)
    started()
    await context.resume()
    return open(audio ? new MediaStream(room.stream.getTracks().map((track) => track.clone())) : picture())
  }
  navigator.mediaDevices.getDisplayMedia = async () => {
    if (window.refused) throw new DOMException('', window.refused)
    started()
    return open(picture())
  }
}"""


class RecordCase(BrowserCase):
    """A page with devices of its own."""

    def setUp(self) -> None:
        super().setUp()
        self.prepare(self.page).reload()

    def prepare(self, page: Page) -> Page:
        """Give a page its devices."""
        page.set_default_timeout(PATIENCE)
        page.add_init_script(f"({_DEVICES})()")
        return page

    def sayable(self, name: str, *spans: tuple[float, float]) -> str:
        """The address of a sound for the microphone: stretches of the demo talk (seconds), one after the other."""
        heard = np.concatenate(
            [sound(DEMO / "speech" / "talk.opus", start, end - start, RATE, channels=1)[:, 0] for start, end in spans]
        )
        file = Path(tempfile.mkdtemp(dir=self.data)) / name
        write_wav(file, heard, RATE)
        self.page.route(f"**/say/{name}", lambda route: route.fulfill(path=str(file), content_type="audio/wav"))
        return f"/say/{name}"

    def stage(self, name: str) -> None:
        expect(self.page.locator("[data-test=record]")).to_have_attribute("data-stage", name)

    def begin(self) -> None:
        """Open the devices and record, once the countdown is over."""
        self.page.get_by_role("button", name="Open camera and microphone").click()
        self.page.locator("video").wait_for()
        self.page.keyboard.press("Shift+R")
        self.stage("recording")

    def prepared(self, patience: float = 90) -> float:
        """Seconds of what was recorded last, once it can be played."""
        rows: list[dict] = []

        def ready() -> bool:
            rows[:] = self.page.evaluate("async () => (await fetch('/api/recordings')).json()")
            return bool(rows) and rows[0]["playable"]

        self.assertTrue(wait_until(ready, patience))
        return rows[0]["duration"]

    def original(self) -> Path:
        """What was recorded last, as the server takes it."""
        ((pk,),) = self.rows("select id from recordings_recording order by created desc limit 1") or [("",)]
        name = f"{pk[:8]}-{pk[8:12]}-{pk[12:16]}-{pk[16:20]}-{pk[20:]}".lower()
        folder = self.data / "media" / "recordings" / name
        return next(each for each in (folder / "bridged.mkv", folder / "original") if each.exists())


def flashes_and_clicks(path: Path) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """When a recording of the pattern flashes and clicks, and the times of its frames, in seconds."""
    bright, at = [], []
    with av.open(str(path)) as file:
        for frame in file.decode(video=0):
            at.append(float(frame.time))
            bright.append(frame.to_ndarray(format="gray")[:, 300:560].mean())
    lit = np.array(bright) > 180
    flashes = np.array(at)[np.flatnonzero(lit[1:] & ~lit[:-1]) + 1]
    heard = np.abs(_sound(path))
    step = RATE // 1000
    peaks = heard[: len(heard) // step * step].reshape(-1, step).max(axis=1) > 0.2
    starts = np.flatnonzero(peaks[1:] & ~peaks[:-1]) + 1
    clicks = starts[np.diff(starts, prepend=-1000) > 200] / 1000
    return flashes, clicks, np.array(at)


def _sound(path: Path) -> np.ndarray:
    with av.open(str(path)) as file:
        parts = [(float(frame.time), frame.to_ndarray().mean(axis=0)) for frame in file.decode(audio=0)]
    start = round(parts[0][0] * RATE)
    return np.concatenate([np.zeros(max(start, 0)), *(part for _, part in parts)])
