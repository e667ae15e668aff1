"""A talk by two cameras: brought in, put in step, seen by key, whoever talks, heard by the other microphone; exported and checked frame by frame."""

import re

import av
from playwright.sync_api import expect

from hovvet.core.plan.model import Plan
from tests.e2e.accessible import Accessible
from tests.e2e.clips import ClipCase
from tests.media import DEMO, LEVELS, counted, ffmpeg, number

LATER = 1.4  # seconds by which the second camera begins later
RATE = 30


class Cameras(Accessible, ClipCase):
    small = True
    own = True  # the talk gets a second camera

    def bring_in_camera(self) -> None:
        """A second film of the talk, in which the brightness of each frame tells its number."""
        picture = counted(self.data / "numbers.mp4", 11, str(RATE), "320x180", "")
        speech = self.data / "speech.wav"
        ffmpeg("-i", DEMO / "speech" / "talk.opus", speech)
        side = self.data / "from the side.mp4"
        ffmpeg(
            "-i", picture, "-ss", LATER, "-t", 11, "-i", speech, "-map", "0:v", "-map", "1:a",
            "-c:v", "copy", "-c:a", "aac", "-b:a", "128k", side,
        )  # fmt: skip
        page = self.page
        page.get_by_role("tab", name="Cameras").click()
        expect(page.get_by_text("Was this talk filmed twice")).to_be_visible()
        page.set_input_files("[data-test=camera-file]", side)
        camera = page.locator("[data-test=camera]")
        expect(camera.get_by_text("Begins 0:01.4 after this one")).to_be_visible()
        expect(camera.locator("video").first).to_be_visible()
        self.assertEqual(page.locator("[data-test=camera] .alarm").count(), 0)

        # By hand: the film is stopped at a moment, the recording at the same one; then by its sound again.
        camera.get_by_text("Put it in step by hand").click()
        film = camera.locator("details video")
        film.evaluate("(film) => new Promise((done) => { film.onseeked = done; film.currentTime = 0.5 })")
        page.locator(".word").nth(6).click()
        camera.get_by_role("button", name="These two are the same moment").click()
        expect(camera.get_by_text("Begins 0:01.4")).to_have_count(0)
        camera.get_by_role("button", name="Listen again").click()
        expect(camera.get_by_text("Begins 0:01.4 after this one")).to_be_visible()
        self.check("cameras")

    def test_two_cameras(self):
        page = self.open_clip(other=False)
        clip = page.url
        page.keyboard.press("2")
        expect(page.get_by_role("region", name="Settings")).to_have_count(0)  # there is none yet
        page.goto(self.address)
        page.get_by_text("talk", exact=True).click()
        page.wait_for_selector(".play:not([disabled])")
        self.bring_in_camera()

        page.goto(clip)
        page.wait_for_selector(".play:not([disabled])")
        self.shortened(page, 24)
        self.select(page, 0, 3)  # said before the second camera was running
        page.keyboard.press("Delete")
        expect(page.locator(".rows .word").first).to_have_class(re.compile("cut"))
        whole = Plan.model_validate(self.document(page)["plan"])
        self.select(page, 8, 14)
        page.keyboard.press("2")
        settings = page.get_by_role("region", name="Settings")
        expect(settings.get_by_role("group", name="Cameras").get_by_role("button")).to_have_count(2)
        expect(settings.get_by_role("heading", name="Camera 2")).to_be_visible()
        self.check("a camera")
        page.keyboard.press("Escape")
        plan = Plan.model_validate(self.document(page)["plan"])
        self.assertEqual(plan.sound, whole.sound, "what is heard stays")
        own, side, after = plan.picture
        self.assertEqual((own.source.media, own.source.media == side.source.media), (after.source.media, False))

        # The file, frame by frame: the numbers of the second camera, where it is seen, at the moments that are heard.
        with av.open(str(self.exported(page))) as file:
            numbers = [number(frame) for frame in file.decode(video=0)]
        first = whole.picture[0].source.knots[0]
        fps = plan.rate.fps
        wrong = []
        for frame in range(side.first, side.last):
            seconds = (first.source + frame - first.frame) / fps  # of the talk
            wanted = int((seconds - LATER) * RATE + 0.5) % LEVELS
            if min((numbers[frame] - wanted) % LEVELS, (wanted - numbers[frame]) % LEVELS) > 1:
                wrong.append((frame, numbers[frame], wanted))
        self.assertEqual(wrong, [])
        page.keyboard.press("Escape")

        # Whoever talks, as one change; the other microphone for the whole clip.
        page.keyboard.press("Shift+Y")
        expect(page.locator("[data-test=bar]", has_text="Camera 2")).to_have_count(0)  # nobody's face is seen by that
        page.keyboard.press("Control+z")
        expect(page.locator("[data-test=bar]", has_text="Camera 2").first).to_be_visible()
        page.get_by_role("button", name="Add", exact=True).click()
        page.get_by_role("menuitem", name="Another microphone").click()
        expect(settings.get_by_role("radio", name=re.compile("2 from the side"))).to_be_checked()
        heard = {each.media for each in Plan.model_validate(self.document(page)["plan"]).sound}
        self.assertEqual(heard, {side.source.media})
