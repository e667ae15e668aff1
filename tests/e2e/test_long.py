"""A transcript of 20,000 words in the browser: everything works, and how long it takes is printed for docs/figures.md."""

import statistics
import uuid

from tests.e2e.base import BrowserCase
from tests.media import demo_transcript

WORDS = 20_000
_MAKE = """
import json, sys
from hovvet.core.media.info import MediaInfo
from hovvet.core.words.transcript import Transcript
from hovvet.server.accounts.models import Workspace
from hovvet.server.recordings.describing import describe_words
from hovvet.server.recordings.models import Recording
words = Transcript.model_validate_json(open({path!r}).read())
media = MediaInfo(duration=words.duration, has_picture=False, has_sound=True)
row = Recording.objects.create(id={id!r}, workspace=Workspace.objects.get(), title="Two hours", file_name="long.mp3",
    media_json=media.model_dump(mode="json"), transcript_json=words.model_dump(mode="json"), skyline=[120] * 240)
row.folder.mkdir(parents=True)
describe_words(row, words)
"""

# Does something and returns the milliseconds until a check holds on a painted frame.
_TIMED = """async ([action, check]) => {
  const page = document.querySelector('.page')
  const painted = () => new Promise((done) => requestAnimationFrame(() => setTimeout(done)))
  const text = () => page.innerText
  const cuts = () => page.querySelectorAll('.word.cut').length
  const key = (key, options = {}) =>
    document.activeElement.dispatchEvent(new KeyboardEvent('keydown', {key, bubbles: true, cancelable: true, ...options}))
  const fill = (field, value) => { field.value = value; field.dispatchEvent(new Event('input')) }
  const actions = {
    scroll: (to) => { page.scrollTop = to },
    key: (name) => key(name),
    extend: () => key('ArrowRight', {shiftKey: true}),
    undo: () => key('z', {ctrlKey: true}),
    type: (value) => { fill(document.querySelector('.edit'), value); key('Enter') },
    find: (value) => fill(document.querySelector('[data-test=find]'), value),
  }
  const size = () => { let all = 0; for (const range of CSS.highlights.get('selected') ?? []) all += range.toString().length; return all }
  const checks = {
    words: () => {
      const box = page.getBoundingClientRect()
      return document.elementFromPoint(box.left + 300, box.top + box.height / 2)?.closest('section') != null
    },
    cut: () => cuts() > 0,
    none: () => cuts() === 0,
    selected: (n) => size() > n,
    editing: () => document.querySelector('.edit') != null,
    reads: (value) => text().includes(value),
    reads_not: (value) => !text().includes(value),
    found: () => /of|^\\d/.test(document.querySelector('.find .count').innerText.trim()),
  }
  const before = size()
  const began = performance.now()
  actions[action[0]](action[1])
  for (;;) {
    await painted()
    if (checks[check[0]](check[0] === 'selected' ? before : check[1])) return performance.now() - began
    if (performance.now() - began > 20000) throw new Error(`${action} did not lead to ${check}`)
  }
}"""


class TwentyThousandWords(BrowserCase):
    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        talk = demo_transcript()
        words = []
        while len(words) < WORDS:
            shift = (len(words) // len(talk.words)) * talk.duration
            for word in talk.words[: WORDS - len(words)]:
                times = {"start": round(word.start + shift, 3), "end": round(word.end + shift, 3)}
                words.append(word.model_copy(update={"id": len(words) + 1} | times))
        whole = talk.model_copy(update={"words": tuple(words), "duration": words[-1].end + 1})
        path = cls.data / "long.json"
        path.write_text(whole.model_dump_json())
        cls.recording = str(uuid.uuid4())
        cls.manage("shell", "-c", _MAKE.format(path=str(path), id=cls.recording))

    def timed(self, *action_and_check) -> float:
        return self.page.evaluate(_TIMED, [list(each) for each in action_and_check])

    def test_reading_cutting_and_correcting_stay_fluid(self):
        page, figures = self.page, {}
        page.wait_for_selector("text=Two hours")
        opened = []
        for _ in range(3):
            page.goto(self.address)
            link = page.get_by_role("link", name="Two hours")
            link.wait_for()
            opened.append(link.evaluate("""async (link) => {
              const began = performance.now(); link.click()
              while (!document.querySelector('.page .word') || !document.querySelector('[data-test=length]')) await new Promise(requestAnimationFrame)
              await new Promise((done) => requestAnimationFrame(() => setTimeout(done)))
              return performance.now() - began }"""))  # fmt: skip
        figures["open"] = opened
        self.assertLess(page.locator(".word").count(), 3000, "only what is in sight is in the document")

        heights = page.locator(".page > div").evaluate("(all) => all.offsetHeight")
        figures["scroll"] = [self.timed(("scroll", heights * part), ("words",)) for part in (0.2, 0.5, 0.9, 0.31, 0.7)]
        page.evaluate("document.querySelector('.page').scrollTop = 0")
        page.locator(".word").nth(30).click()
        figures["select"] = [self.timed(("extend", 0), ("selected", 0)) for _ in range(10)]
        cut, back = [], []
        for _ in range(5):
            cut.append(self.timed(("key", "Delete"), ("cut", 0)))
            back.append(self.timed(("undo", 0), ("none", 0)))
        figures["cut"], figures["undo"] = cut, back

        correct = []
        for n in range(5):
            page.locator(".word").nth(40 + n).click()
            figures.setdefault("begin to correct", []).append(self.timed(("key", "Enter"), ("editing", 0)))
            correct.append(self.timed(("type", f"Corrected{n}"), ("reads", f"Corrected{n}")))
        figures["correct"] = correct
        figures["undo a correction"] = [self.timed(("undo", 0), ("reads_not", f"Corrected{n}")) for n in (4, 3, 2)]
        page.keyboard.press("Control+f")
        figures["find"] = [self.timed(("find", text), ("found", 0)) for text in ("clock", "evening", "clock")]
        self.assertGreater(int(page.locator(".find .count").inner_text()), 20)

        # What was done is there after a reload, at the far end too.
        page.keyboard.press("Escape")
        page.reload()
        page.wait_for_selector("[data-test=length]")
        self.assertIn("Corrected1", page.locator(".page").inner_text())
        self.timed(("scroll", heights), ("words",))
        page.locator(".word").last.click()
        page.keyboard.press("Delete")
        page.wait_for_selector(".word.cut")
        print("\n20,000 words, ms (median, most):")
        for name, times in figures.items():
            print(f"  {name:18} {statistics.median(times):6.0f} {max(times):6.0f}")
