"""A clip with a microphone that hears what the page plays, for stories told of voices."""

import numpy as np
from playwright.sync_api import Page, expect

from hovvet.core.media.decode import sound
from hovvet.core.plan.model import Plan, SoundLayer
from tests.core.test_outside import wait_until
from tests.e2e.clips import ClipCase

RATE = 48_000
NEAR = 0.02  # seconds by which a voice may be out of its place

# What the page plays is what its microphone hears: a loudspeaker and a microphone in one.
_LOOPBACK = """() => {
  const Own = window.AudioContext
  window.AudioContext = class extends Own {
    constructor(options) {
      super(options)
      this.room = this.createMediaStreamDestination()
      window.rooms = [...(window.rooms ?? []), this.room]
    }
  }
  const connect = AudioNode.prototype.connect
  AudioNode.prototype.connect = function (to, ...others) {
    if (this.context.room && to === this.context.destination) connect.call(this, this.context.room)
    return connect.call(this, to, ...others)
  }
  navigator.mediaDevices.getUserMedia = async () => {
    if (window.refused) throw new DOMException('', 'NotAllowedError')
    window.microphone = new MediaStream(window.rooms.at(-1).stream.getTracks().map((track) => track.clone()))
    return window.microphone
  }
}"""


class VoiceCase(ClipCase):
    """The loudspeaker is the microphone."""

    def setUp(self) -> None:
        super().setUp()
        self.page.add_init_script(f"({_LOOPBACK})()")

    def plan(self) -> Plan:
        return Plan.model_validate(self.document(self.page)["plan"])

    def voice(self) -> SoundLayer | None:
        return next((layer for layer in self.plan().sound if layer.bus == "voice"), None)

    def idle(self) -> None:
        """Wait until nothing is done in the background."""
        self.assertTrue(
            wait_until(lambda: not self.rows("select id from jobs_job where state in ('queued', 'running')"), 180)
        )

    def take(self) -> str:
        """The one that is chosen."""
        layers = self.document(self.page)["sheet"]["layers"]
        return next(each["content"]["media"] for each in layers if each["content"]["kind"] == "voice_over")

    def heard(self, layer: SoundLayer, seconds: float) -> np.ndarray:
        file = self.data / "media" / "recordings" / layer.media / "original"
        return sound(file, layer.source_sample / RATE, seconds, RATE, 1)[:, 0]

    def record(self, page: Page, until: float) -> None:
        """By the keys: begin, wait until the clip has played so far, stop."""
        recorder = page.locator("[data-test=recorder]")
        page.keyboard.press("Shift+R")
        expect(recorder).to_have_attribute("data-stage", "recording")
        self.plays_to(page, until)
        page.keyboard.press("Shift+X")
        expect(recorder).to_have_attribute("data-stage", "ready")
