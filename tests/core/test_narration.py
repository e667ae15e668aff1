"""Text that is read over a clip: its sentences, what is heard, what is written, what makes room for it."""

import unittest
from unittest import mock

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from hovvet.core.captions.style import caption_style
from hovvet.core.compile.source import Source
from hovvet.core.compile.steps import compile, planned, staged
from hovvet.core.compile.target import Target
from hovvet.core.engines.narrator import LONGEST, NARRATORS, narrate
from hovvet.core.errors import CoreError
from hovvet.core.media.decode import SPEECH_RATE, speech_wav
from hovvet.core.media.info import MediaInfo
from hovvet.core.media.process import MediaError
from hovvet.core.media.wav import read_wav
from hovvet.core.plan.model import Plan
from hovvet.core.plan.outlets import OUTLETS
from hovvet.core.render.speaking import speak, spoken_source
from hovvet.core.sheet.applying import apply
from hovvet.core.sheet.asking import Around, AsPiece, GiveRoom, edit_for
from hovvet.core.sheet.contents.narration import Narration
from hovvet.core.sheet.contents.sound import Sound
from hovvet.core.sheet.contents.voice_over import VoiceOver
from hovvet.core.sheet.edits import CutWords, EditError
from hovvet.core.sheet.model import Layer, Piece, Run, Sheet, Span
from hovvet.core.time import Rate
from hovvet.core.view.rows import Bar, bars, rows
from hovvet.core.words.spoken_text import is_foreign, sentences
from tests.media import ScratchCase, even_words

RATE = 48_000
TALL = Target(OUTLETS["tall"], caption_style("bold"))
TEXT = "This is read by a voice. And so is this, a little later."


class Sentences(unittest.TestCase):
    def test_a_text_is_parted_where_sentences_end(self):
        text = 'Dr. Varn came at 3.5. "Is it on?" she asked.\nNo full stop here\n\n… !'
        self.assertEqual(
            sentences(text, LONGEST), ["Dr. Varn came at 3.5.", '"Is it on?', "she asked.", "No full stop here"]
        )

    @given(st.text(max_size=600), st.integers(20, 80))
    def test_none_is_too_long_and_nothing_that_could_be_said_is_lost(self, text, longest):
        found = sentences(text, longest)
        self.assertTrue(all(len(each) <= longest and any(map(str.isalnum, each)) for each in found))
        if all(len(word) <= longest for word in text.split()):
            letters = [each for each in "".join(found) if each.isalnum()]
            self.assertEqual(letters, [each for each in text if each.isalnum()])

    def test_other_letters_are_known(self):
        self.assertTrue(is_foreign("Добрый вечер"))
        self.assertFalse(is_foreign("Café, señor, 1, 2, 3") or is_foreign("123") or is_foreign(""))


class Spoken(ScratchCase):
    def test_every_voice_says_it_and_its_words_lie_where_they_are_heard(self):
        for narrator in NARRATORS:
            with self.subTest(narrator):
                own = Narration(text=TEXT, narrator=narrator)
                speak(own.spoken, self.scratch)
                for each in own.spoken:
                    source = spoken_source(self.scratch, each.media)
                    self.assertEqual([word.text for word in source.transcript.words], each.text.split())
                    self.assertTrue(1 < source.media.duration < 5, source.media.duration)
                    self.assertLess(abs(source.transcript.words[0].start), 0.12)
                    self.assertLess(source.media.duration - source.transcript.words[-1].end, 0.25)
                    self.assertTrue(-45 < source.media.lufs < -8)

    def test_words_lie_on_the_sound_and_not_in_its_pauses(self):
        (own,) = Narration(text="One thing, and another, and a third.").spoken
        speak([own], self.scratch)
        speech = self.scratch / "speech.wav"
        source = spoken_source(self.scratch, own.media)
        speech_wav(self.scratch / f"{own.media}.wav", speech, source.media.duration)
        heard = read_wav(speech)
        whole = np.sqrt((heard**2).mean())
        for word in source.transcript.words:
            if len(word.text) < 3:
                continue  # an "a" may be nearly nothing: the voice says it a little otherwise each time
            part = heard[round(word.start * SPEECH_RATE) : round(word.end * SPEECH_RATE)]
            self.assertGreater(np.sqrt((part**2).mean()), whole / 5, word.text)

    def test_faster_takes_less_time_and_what_is_there_is_not_spoken_again(self):
        slow, fast = (Narration(text=TEXT, narrator="plain", pace=pace).spoken[0] for pace in (0.8, 1.4))
        speak([slow, fast], self.scratch)
        lasts = [spoken_source(self.scratch, each.media).media.duration for each in (slow, fast)]
        self.assertAlmostEqual(lasts[0] / lasts[1], 1.75, delta=0.35)
        made = (self.scratch / f"{slow.media}.wav").stat().st_mtime_ns
        speak([slow], self.scratch)
        self.assertLess(abs((self.scratch / f"{slow.media}.wav").stat().st_mtime_ns - made), 10**12)
        self.assertNotEqual(slow.media, fast.media)

    def test_a_voice_that_says_nothing_is_told_of(self):
        out = [self.scratch / "x.wav"]
        with (
            mock.patch("hovvet.core.engines.narrator.run", side_effect=MediaError("It died.")),
            self.assertRaises(CoreError) as died,
        ):
            narrate(["Said."], "natural", 1.0, out)
        self.assertIn("could not be spoken", str(died.exception))
        with mock.patch("hovvet.core.engines.narrator._natural", return_value=[]), self.assertRaises(CoreError):
            narrate(["Said."], "natural", 1.0, out)
        with (
            mock.patch("hovvet.core.engines.narrator.installed", return_value=False),
            self.assertRaises(CoreError) as missing,
        ):
            narrate(["Said."], "natural", 1.0, out)
        self.assertIn("not installed", str(missing.exception))
        self.assertFalse(out[0].exists())
        self.assertEqual(Narration(text="!? …").spoken, ())


class InAPlan(unittest.TestCase):
    def setUp(self) -> None:
        heard = MediaInfo(duration=17, has_picture=False, has_sound=True, lufs=-20)
        self.sources = {"r": Source(even_words(40), heard)}
        for key in ("v", *(each.media for each in Narration(text=TEXT).spoken)):
            self.sources[key] = Source(
                even_words(5), MediaInfo(duration=2.5, has_picture=False, has_sound=True, lufs=-26)
            )
        self.sources["m"] = Source(even_words(1), MediaInfo(duration=60, has_picture=False, has_sound=True, lufs=-26))

    def plan(self, content, *others, start: float = 4.0, end: float = 8.0) -> Plan:
        span = Span(runs=(Run(origin="p1", start=start, end=end),))
        layers = [Layer(id="l1", span=span, content=content)]
        layers += [Layer(id=f"o{n}", span=Span(), content=each) for n, each in enumerate(others)]
        self.sheet = Sheet(pieces=(Piece(id="p1", recording="r", start=0.0, end=16.0),), layers=tuple(layers))
        return compile(self.sheet, self.sources, TALL)

    def bar(self) -> Bar:
        scene = staged(self.sheet, self.sources, TALL)
        planned(scene, TALL)
        return bars(self.sheet, scene, rows(self.sheet, scene))[0]

    def test_its_sentences_follow_one_another_over_speech_that_is_not_heard_then(self):
        plan = self.plan(Narration(text=TEXT, pause=0.5))
        first, second = [layer for layer in plan.sound if layer.bus == "voice"]
        self.assertAlmostEqual((second.sample - first.sample) / RATE, 3.0, delta=1e-3)
        self.assertEqual(first.gain, 12.0)
        self.assertEqual([each.media for each in plan.spoken], [first.media, second.media])
        (speech,) = [layer for layer in plan.sound if layer.bus == "speech"]
        at = [(knot.at + speech.sample) / RATE for knot in speech.level]
        level = np.interp(
            [first.sample / RATE + 1, second.sample / RATE + 1, 1.0, 12.0], at, [knot.value for knot in speech.level]
        )
        np.testing.assert_allclose(level, [0, 0, 1, 1], atol=1e-4)
        self.assertEqual((self.bar().lasts, self.bar().note[:10]), (5.5, "It goes on"))

    def test_its_words_are_the_captions_while_it_speaks(self):
        plan = self.plan(Narration(text=TEXT))
        own = [word for word in plan.words if word.layer == "l1"]
        self.assertEqual(len(own), 10)
        starts = [word.start for word in plan.words]
        self.assertEqual(starts, sorted(starts))
        first, last = own[0].start, own[-1].end
        for caption in plan.captions:
            words = [plan.words[n] for line in caption.lines for n in line]
            self.assertEqual(len({word.layer for word in words}), 1)
            self.assertTrue(all(word.layer == "l1" or word.end <= first or word.start >= last for word in words))
        without = self.plan(Narration(text=TEXT, captions=False))
        self.assertEqual([word.layer for word in without.words], [None] * len(without.words))

    def test_music_steps_back_for_it_where_nobody_else_speaks(self):
        gap = Piece(id="g", recording=None, start=0, end=6)
        sheet = Sheet(
            pieces=(Piece(id="p1", recording="r", start=0.0, end=4.0), gap),
            layers=(
                Layer(
                    id="l1",
                    span=Span(runs=(Run(origin="g", start=0, end=6),)),
                    content=VoiceOver(media="v", later=2_000),
                ),
                Layer(id="l2", span=Span(), content=Sound(media="m", under=12)),
            ),
        )
        plan = compile(sheet, self.sources, TALL)
        (voice,), (music,) = ([layer for layer in plan.sound if layer.bus == bus] for bus in ("voice", "music"))
        at, level = [knot.at / RATE for knot in music.level], [knot.value for knot in music.level]
        spoken, quiet = voice.sample / RATE + 1, plan.seconds - 0.1
        np.testing.assert_allclose(np.interp([spoken, quiet], at, level), [10 ** (-12 / 20), 1], atol=1e-3)

    def test_each_sentence_may_stand_as_a_title(self):
        plain, titled = self.plan(Narration(text=TEXT)), self.plan(Narration(text=TEXT, template="headline"))
        self.assertNotIn("}VOICE.", plain.script)
        self.assertIn("}VOICE.", titled.script)

    def test_what_is_missing_is_told(self):
        self.plan(Narration())
        self.assertIn("Type what", self.bar().note)
        self.plan(Narration(text="Never spoken before."))
        self.assertIn("Not all of it", self.bar().note)
        self.plan(Narration(text=f"{TEXT} Never spoken before."))
        self.assertEqual((self.bar().lasts, self.bar().note[:10]), (None, "Not all of"), "a part of it is there")
        self.plan(Narration(text=TEXT), start=13.0, end=15.0)
        self.assertIn("over before", self.bar().note)
        for content, told in ((VoiceOver(), "Record it"), (VoiceOver(media="gone"), "deleted")):
            self.plan(content)
            self.assertIn(told, self.bar().note)

    def test_a_voice_over_is_trimmed_and_put_right_to_the_millisecond(self):
        (plain,) = [each for each in self.plan(VoiceOver(media="v")).sound if each.bus == "voice"]
        (own,) = [
            each
            for each in self.plan(VoiceOver(media="v", start=0.5, end=1.5, later=-120)).sound
            if each.bus == "voice"
        ]
        self.assertEqual(
            (own.sample - plain.sample, own.source_sample, own.samples), (-round(0.12 * RATE), RATE // 2, RATE)
        )

    def test_it_is_given_a_pause_of_its_own(self):
        self.plan(Narration(text=TEXT))
        around = Around({"r": self.sources["r"].transcript}, Rate(), {})
        made = apply(self.sheet, edit_for(GiveRoom(layer="l1", seconds=5.3), self.sheet, around))
        self.assertEqual(
            [(piece.recording, round(piece.end - piece.start, 2)) for piece in made.pieces][1], (None, 5.3)
        )
        plan = compile(made, self.sources, TALL)
        (voice, *_) = [layer for layer in plan.sound if layer.bus == "voice"]
        self.assertAlmostEqual(voice.sample / RATE, plan.stretches[1].frame / plan.rate.fps, delta=1e-3)
        asleep = apply(self.sheet, CutWords(piece="p1", words=tuple(range(1, 41))))
        with self.assertRaises(EditError):
            edit_for(GiveRoom(layer="l1", seconds=5.3), asleep, around)

    def test_a_voice_over_becomes_a_piece_like_any_other(self):
        self.plan(VoiceOver(media="v", start=0.5, end=2.0))
        transcripts = {key: self.sources[key].transcript for key in ("r", "v")}
        around = Around(transcripts, Rate(), {})
        made = apply(self.sheet, edit_for(AsPiece(layer="l1"), self.sheet, around))
        self.assertEqual(
            [(piece.recording, piece.start, piece.end) for piece in made.pieces][1], ("v", 0.5, 2.0), "before its words"
        )
        self.assertEqual((len(made.pieces), made.layers), (3, ()))
        cut = apply(made, CutWords(piece=made.pieces[1].id, words=(3,)))
        self.assertLess(compile(cut, self.sources, TALL).seconds, compile(made, self.sources, TALL).seconds)
        with self.assertRaises(EditError):
            edit_for(AsPiece(layer="l1"), self.sheet, Around({"r": transcripts["r"]}, Rate(), {}))
        self.plan(Narration(text=TEXT))
        with self.assertRaises(EditError):
            edit_for(AsPiece(layer="l1"), self.sheet, around)
