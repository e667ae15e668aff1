"""The mix of a clip: as loud as its outlet has it, speakers alike, music that steps back, what a person made louder or mute."""

import re
import subprocess
import unittest
from itertools import pairwise
from pathlib import Path

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from hovvet.core.compile.mixing.ducked import HOLD, LEAD, RELEASE, ducked, spoken
from hovvet.core.compile.mixing.predicted import Predicted
from hovvet.core.compile.mixing.volumes import volumes
from hovvet.core.compile.scene import Scene
from hovvet.core.compile.source import Source
from hovvet.core.compile.steps import compile, planned, staged
from hovvet.core.compile.target import Target
from hovvet.core.media.decode import sound
from hovvet.core.media.probe import probe
from hovvet.core.plan.model import Plan, PlanWord
from hovvet.core.plan.outlets import OUTLETS
from hovvet.core.render.export import write_sound
from hovvet.core.render.limiter import limit
from hovvet.core.render.mix import mix
from hovvet.core.render.work import Original
from hovvet.core.sheet.contents.base import SILENT
from hovvet.core.sheet.contents.sound import Sound
from hovvet.core.sheet.contents.voices import SpeakerLevel, Voices
from hovvet.core.sheet.contents.volume import Volume
from hovvet.core.sheet.model import Layer, Piece, Run, Sheet, Span
from hovvet.core.sound.energy import Energy, energy_of, integrated, measure, of_spans, open_energy, write_energy
from hovvet.core.value import with_changes
from hovvet.core.words.transcript import Transcript, Word
from tests.media import DEMO, ScratchCase, ffmpeg

TALL = Target(OUTLETS["tall"])
RATE = 48_000


def judged(path: Path) -> tuple[float, float]:
    """Loudness (LUFS) and true peak (dBTP) of a file, as ffmpeg's meter has them."""
    command = ["ffmpeg", "-hide_banner", "-nostdin", "-i", str(path), "-af", "ebur128=peak=true", "-f", "null", "-"]
    told = subprocess.run(command, capture_output=True, check=True, text=True).stderr
    loudness, peak = (re.findall(f"{name}:\\s+(-?[\\d.]+)", told)[-1] for name in ("I", "Peak"))
    return float(loudness), float(peak)


class Measured(ScratchCase):
    """What is measured once of a sound."""

    def test_loudness_is_what_the_standard_meter_says(self):
        for name, filters in (
            ("quiet", "volume=-20dB"),
            ("gated", "volume='if(lt(mod(t,4),2),1,0.003)':eval=frame"),
            ("as it is", "anull"),
        ):
            file = self.scratch / f"{name}.wav"
            ffmpeg("-t", 20, "-i", DEMO / "speech" / "interview.opus", "-af", filters, "-ac", 2, file)
            self.assertAlmostEqual(integrated(energy_of(file, 2, 20).power), judged(file)[0], delta=0.1, msg=name)

    def test_one_channel_is_measured_as_it_is_exported(self):
        one, two = self.scratch / "one.wav", self.scratch / "two.wav"
        ffmpeg("-t", 6, "-i", DEMO / "speech" / "talk.opus", "-ac", 1, one)
        ffmpeg("-i", one, "-ac", 2, two)
        a, b = energy_of(one, 1, 6), energy_of(two, 2, 6)
        np.testing.assert_allclose(a.power, b.power, rtol=1e-2, atol=1e-8)
        np.testing.assert_allclose(a.peak, b.peak, atol=1e-3)

    def test_it_is_kept_in_a_file_and_silence_has_no_loudness(self):
        file, kept = self.scratch / "s.wav", self.scratch / "energy"
        ffmpeg(
            "-f",
            "lavfi",
            "-t",
            1,
            "-i",
            "sine=f=500:r=44100",
            "-f",
            "lavfi",
            "-t",
            1.003,
            "-i",
            "anullsrc",
            "-filter_complex",
            "[0][1]concat=v=0:a=1",
            file,
        )
        energy = energy_of(file, 1, 2)
        write_energy(energy, kept)
        np.testing.assert_array_equal(open_energy(kept).power, energy.power)
        self.assertEqual(len(energy.power), 201)
        self.assertIsNone(integrated(energy.power[105:]))
        self.assertIsNone(integrated(energy.power[:0]))


class MixCase(ScratchCase):
    """Clips of real speech, mixed."""

    def recording(self, name: str, filters: str, transcript: Transcript, seconds: float = 40, of: str = "talk") -> None:
        """A recording of the demo's speech with something done to it."""
        file = self.scratch / f"{name}.wav"
        ffmpeg("-t", seconds, "-i", DEMO / "speech" / f"{of}.opus", "-af", filters, "-ar", RATE, file)
        self.known(name, file, transcript)

    def known(self, name: str, file: Path, transcript: Transcript) -> None:
        media = probe(file)
        energy = energy_of(file, media.channels, media.duration)
        media = with_changes(media, lufs=integrated(energy.power))
        self.sources[name] = Source(transcript, media, energy=energy)
        self.originals[name] = Original(file, media)

    def setUp(self) -> None:
        super().setUp()
        self.sources: dict[str, Source] = {}
        self.originals: dict[str, Original] = {}

    def plan(self, start: float, end: float, *content) -> Plan:
        """A clip of some seconds, with what lies over it: all of it, or seconds of the recording."""
        return compile(self.sheet(start, end, *content), self.sources, TALL)

    def staged(self, start: float, end: float, *content) -> Scene:
        """The same, with what is known beside the plan."""
        scene = staged(self.sheet(start, end, *content), self.sources, TALL)
        planned(scene, TALL)
        return scene

    def sheet(self, start: float, end: float, *content) -> Sheet:
        layers = []
        for n, each in enumerate(content):
            what, span = each if isinstance(each, tuple) else (each, None)
            runs = (Run(origin="p1", start=span[0], end=span[1]),) if span else ()
            layers.append(Layer(id=f"l{n}", span=Span(runs=runs), content=what))
        return Sheet(pieces=(Piece(id="p1", recording="r", start=start, end=end),), layers=tuple(layers))

    def exported(self, plan: Plan) -> tuple[float, float]:
        out = self.scratch / "out.mp4"
        write_sound(plan, self.originals, out, self.scratch, "mp4", self.scratch)
        return judged(out)

    def mixed(self, plan: Plan) -> np.ndarray:
        """All of it, limited."""
        out = np.zeros((plan.samples, 2), np.float32)
        mix(plan, lambda media, first, count: sound(self.originals[media].path, first / RATE, count / RATE, RATE), out)
        limit(out, plan.peak_db)
        return out


def words_of(name: str = "talk") -> Transcript:
    return Transcript.model_validate_json((DEMO / "words" / f"{name}.json").read_bytes())


class Loud(MixCase):
    def test_every_clip_comes_to_the_loudness_and_under_the_peak_of_its_outlet(self):
        for lufs in (-40, -23, -8):
            # What is loud is made loud as people do: it hits the ceiling.
            self.recording("r", f"volume={lufs + 19.3}dB,alimiter=limit=0.99:level=0", words_of())
            ffmpeg("-f", "lavfi", "-i", f"sine=f=220:d=12,volume={lufs + 30}dB", "-ac", 2, self.scratch / "m.wav")
            self.known("m", self.scratch / "m.wav", Transcript(duration=12))
            music = Sound(media="m", **Sound.presets["Background music"])
            for start, end, laid in ((3, 8.5, ()), (1, 38, ()), (1, 38, (music,))):
                plan = self.plan(start, end, *laid)
                loudness, peak = self.exported(plan)
                self.assertAlmostEqual(loudness, -14, delta=0.3, msg=f"{lufs}, {end - start} s, {laid}")
                self.assertAlmostEqual(plan.loudness, loudness, delta=0.3)
                self.assertLessEqual(peak, -1.5 + 0.2)

    def test_what_is_not_measured_is_left_at_its_own_level(self):
        self.recording("r", "volume=-10dB", words_of())
        self.sources["r"] = Source(words_of(), self.sources["r"].media)
        plan = self.plan(1, 10)
        self.assertEqual((plan.master, plan.loudness), (0, None))

    def test_what_is_much_too_quiet_or_too_loud_is_told_with_its_place(self):
        self.recording("r", "volume='if(between(t,10,14),0.15,1)':eval=frame", words_of())
        scene = self.staged(2, 30, (Volume(volume=9.0), (21.0, 24.0)))
        level = scene.level
        self.assertEqual(len(level.lufs), 56)
        self.assertGreaterEqual(sum(b - a for a, b in level.quiet), 2)
        self.assertTrue(all(a >= 8 and b <= 13 for a, b in level.quiet), level.quiet)
        self.assertTrue(all(a >= 19 and b <= 23 for a, b in level.loud), level.loud)
        self.assertEqual((self.staged(15, 30).level.quiet, self.staged(15, 30).level.loud), ((), ()))

    def test_of_nothing_there_is_nothing_to_be_loud(self):
        self.assertEqual(Predicted((), (), {}, 0).master(-14, -1.5), 0)
        self.assertEqual(Predicted((), (), {}, 0).over_time(0, -1.5), [])

    def test_silence_is_left_alone(self):
        self.recording("r", "volume=0", Transcript(duration=40))
        plan = self.plan(1, 10)
        self.assertEqual((plan.master, plan.loudness), (0, None))


class Speakers(MixCase):
    """Two who speak in turn, one 8 LU louder than the other."""

    def setUp(self) -> None:
        super().setUp()
        said = words_of().words
        turns = [word for word in said if word.end < 38]
        self.said = Transcript(
            duration=40, words=tuple(with_changes(word, speaker="S1" if word.start % 8 < 4 else "S2") for word in turns)
        )
        self.recording("r", "volume='if(lt(mod(t,8),4),1,0.398)':eval=frame", self.said)

    def apart(self, plan: Plan) -> float:
        """By how many LU the first is louder than the second."""
        energy = next(measure(iter([self.mixed(plain(plan))]))).power
        spoken = {
            speaker: [
                (word.start - 1, word.end - 1)
                for word in self.said.words
                if word.speaker == speaker and word.start > 1 and word.end < 37
            ]
            for speaker in ("S1", "S2")
        }
        one, two = (of_spans(energy, spoken[speaker]) for speaker in ("S1", "S2"))
        return one - two

    def test_they_are_as_loud_as_each_other_unless_a_person_wants_it_otherwise(self):
        self.assertGreater(abs(self.apart(self.plan(1, 37, Voices(even=False)))), 6.5)
        self.assertLessEqual(abs(self.apart(self.plan(1, 37))), 1)
        by_hand = Voices(amounts=(SpeakerLevel(speaker="S2", volume=0.0),))
        self.assertGreater(abs(self.apart(self.plan(1, 37, by_hand))), 2.5)

    def test_they_are_evened_out_also_where_they_speak_at_once(self):
        late = "adelay=900:all=1,volume='if(lt(mod(t,4),0.6),0.7,0)':eval=frame"  # the other one goes on for a moment
        louder = "volume='if(lt(mod(t,8),4),1,0.398)':eval=frame"
        self.recording("r", f"{louder},asplit[a][b];[b]{late}[c];[a][c]amix=inputs=2:normalize=0", self.said)
        self.assertGreater(abs(self.apart(self.plan(1, 37, Voices(even=False)))), 5)
        self.assertLessEqual(abs(self.apart(self.plan(1, 37))), 1)

    def test_a_level_changes_between_words_not_within_one(self):
        plan = self.plan(1, 37)
        (layer,) = plan.sound
        knots = [(knot.at / RATE, knot.value) for knot in layer.level]
        self.assertGreater(len({value for _, value in knots}), 1)
        for word in plan.words:
            middle = np.interp([word.start + 0.03, word.end - 0.03], *zip(*knots, strict=True))
            self.assertAlmostEqual(20 * np.log10(middle[0] / middle[1]), 0, delta=0.5)


class Odd(MixCase):
    """Music as people bring it: in few samples, in six channels, an hour long, cut short."""

    def file(self, name: str, *arguments: object) -> Path:
        file = self.scratch / name
        ffmpeg("-f", "lavfi", "-i", "sine=f=330:r=48000:d=20", *arguments, file)
        return file

    def test_it_is_as_loud_as_any_other_and_the_clip_keeps_its_loudness(self):
        self.recording("r", "anull", words_of())
        broken = self.file("whole.wav").read_bytes()
        (self.scratch / "broken.wav").write_bytes(broken[: len(broken) * 2 // 3])
        odd = {
            "8 kHz": self.file("low.wav", "-ar", 8000),
            "5.1": self.file("six.m4a", "-ac", 6),
            "broken": self.scratch / "broken.wav",
        }
        for name, file in odd.items():
            with self.subTest(name):
                self.known("m", file, Transcript(duration=20))
                plan = self.plan(1, 30, Sound(media="m", volume=-20, under=6))
                self.assertAlmostEqual(plan.loudness, -14, delta=0.1)
                self.assertAlmostEqual(self.exported(plan)[0], -14, delta=0.5)

    def test_an_hour_of_music_is_read_where_it_is_heard(self):
        self.recording("r", "anull", words_of())
        hour, part = self.scratch / "hour.wav", self.file("part.wav", "-ar", 8000)
        ffmpeg("-f", "lavfi", "-i", "sine=f=330:r=8000:d=3600", hour)
        self.known("m", part, Transcript(duration=20))
        measured = Energy(*(np.tile(each, 180) for each in self.sources["m"].energy))  # it is the same all along
        media = with_changes(self.sources["m"].media, duration=3_600.0)
        self.sources["m"] = Source(Transcript(duration=3_600), media, energy=measured)
        self.originals["m"] = Original(hour, media)
        plan = self.plan(1, 30, Sound(media="m", start=3_500, volume=-20))
        (own,) = [layer for layer in plan.sound if layer.media == "m"]
        self.assertEqual(own.source_sample, 3_500 * RATE)
        self.assertAlmostEqual(self.exported(plan)[0], -14, delta=0.5)


class Volumes(MixCase):
    def test_words_are_mute_or_softer_where_a_person_wants_that(self):
        self.recording("r", "anull", words_of())
        before = self.mixed(plain(self.plan(0, 20)))
        mute = (Volume(volume=SILENT), (4.0, 7.0))
        soft = (Volume(volume=-12.0, of="all"), (10.0, 13.0))
        plan = self.plan(0, 20, mute, soft)
        made = self.mixed(plain(plan))
        rms = lambda sound, a, b: float(np.sqrt((sound[round(a * RATE) : round(b * RATE)] ** 2).mean()))  # noqa: E731
        self.assertLess(rms(made, 4.6, 6.4), 1e-6)
        self.assertAlmostEqual(20 * np.log10(rms(made, 10.6, 12.4) / rms(before, 10.6, 12.4)), -12, delta=0.1)
        np.testing.assert_allclose(made[: round(3.5 * RATE)], before[: round(3.5 * RATE)], atol=1e-5)

    def test_it_comes_and_goes_as_slowly_as_a_person_wants(self):
        self.recording("r", "anull", words_of())
        scene = self.staged(0, 20, (Volume(volume=-20.0, fade_in=2.0, fade_out=1.0), (4.0, 10.0)))
        level, sample = volumes(scene, "speech"), scene.timeline.rate.sample
        (laid,) = scene.of(Volume)
        first, last = sample(laid.first), sample(laid.last)
        moments = [first, first + RATE, first + 2 * RATE, last - RATE, last - RATE // 2, last]
        np.testing.assert_allclose(level.over(np.array(moments)), [1, 0.55, 0.1, 0.1, 0.55, 1], atol=1e-6)
        short = self.staged(0, 20, (Volume(volume=-20.0, fade_in=10.0, fade_out=10.0), (4.0, 7.0)))
        (laid,) = short.of(Volume)
        middle = (sample(laid.first) + sample(laid.last)) // 2
        self.assertAlmostEqual(float(volumes(short, "speech").over(np.array([middle]))[0]), 0.1, delta=1e-3)


def plain(plan: Plan) -> Plan:
    """Without master and limiter, so that two can be compared."""
    return with_changes(plan, master=0.0, peak_db=20.0)


class Ducked(unittest.TestCase):
    @settings(max_examples=60)
    @given(st.lists(st.tuples(st.floats(0, 4), st.floats(0.05, 2)), min_size=1, max_size=30), st.floats(1, 30))
    def test_it_is_down_while_somebody_speaks_and_up_in_long_gaps(self, gaps, under):
        words, at = [], 0.0
        for gap, length in gaps:
            words.append(PlanWord(id=1, piece="p", text="w", start=at + gap, end=at + gap + length))
            at += gap + length
        speech = spoken(words)
        level = ducked(speech, under)
        low = 10 ** (-under / 20)
        over = lambda seconds: level.over(np.array([round(seconds * RATE)]))[0]  # noqa: E731
        self.assertTrue((np.diff(level.at) > 0).all())
        self.assertTrue(((level.value >= low - 1e-9) & (level.value <= 1)).all())
        for word in words:
            self.assertAlmostEqual(over(word.start), low, places=3)
            self.assertAlmostEqual(over((word.start + word.end) / 2), low, places=3)
        for (_, end), (start, _) in pairwise(speech):
            self.assertGreater(start - end, HOLD)
            if start - end > LEAD + RELEASE:
                self.assertAlmostEqual(over(end + RELEASE), 1, places=3)
        self.assertAlmostEqual(over(at + RELEASE + 0.01), 1, places=3)

    def test_what_nobody_says_does_not_duck(self):
        said = PlanWord(id=1, piece="p", text="w", start=1, end=2)
        written = PlanWord(id=0, piece="", text="a note", start=5, end=9, layer="l1")
        self.assertEqual(spoken([said, written]), [(1, 2)])


class Followed(MixCase):
    def test_music_is_lower_under_words_by_what_was_asked_for(self):
        words = tuple(Word(id=n + 1, text="w", start=s, end=s + 1.0) for n, s in enumerate((3.0, 4.2, 9.0)))
        self.recording("r", "volume=0", Transcript(duration=14, words=words), 14)
        ffmpeg("-f", "lavfi", "-i", "sine=f=220:d=20", "-ac", 2, self.scratch / "m.wav")
        self.known("m", self.scratch / "m.wav", Transcript(duration=20))
        made = self.mixed(plain(self.plan(0, 14, Sound(media="m", volume=-10, under=12, fade_in=0))))
        rms = lambda a, b: 20 * np.log10(float(np.sqrt((made[round(a * RATE) : round(b * RATE)] ** 2).mean())))  # noqa: E731
        for a, b in ((3, 4), (4.0, 4.2), (4.3, 5.1), (9.1, 9.9)):
            self.assertAlmostEqual(rms(a, b) - rms(1, 2.5), -12, delta=0.2)
        for a, b in ((6, 8.5), (11, 13)):
            self.assertAlmostEqual(rms(a, b) - rms(1, 2.5), 0, delta=0.2)
