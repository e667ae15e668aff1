"""The sweep, on words and silences made by code and on the demo talk."""

import itertools
import unittest

import numpy as np

from hovvet.core.media.decode import SPEECH_RATE, speech_wav
from hovvet.core.media.wav import read_wav
from hovvet.core.sheet.applying import apply
from hovvet.core.sheet.cutting import kept_spans
from hovvet.core.sheet.starting import desk_sheet
from hovvet.core.sound.silence import silences
from hovvet.core.sweep.settings import SweepSettings
from hovvet.core.sweep.sweep import find_silences, sweep, sweep_edit
from hovvet.core.words.transcript import Transcript, Word
from tests.media import DEMO, ScratchCase, demo_transcript, demo_truth


def word(n: int, text: str, start: float, end: float, kind: str = "word") -> Word:
    return Word(id=n, text=text, start=start, end=end, kind=kind)


class Sweeping(unittest.TestCase):
    transcript = Transcript(
        duration=10,
        words=(
            word(1, "So", 0.2, 0.5), word(2, "um", 0.9, 1.2, "filler"), word(3, "we", 1.6, 1.8),
            word(4, "mend", 1.9, 2.3), word(5, "it.", 4.3, 4.6), word(6, "Uh,", 4.65, 4.9, "filler"), word(7, "yes.", 4.95, 5.3),
            word(8, "Good.", 9.0, 9.4),
        ),
    )  # fmt: skip
    silent = [(0.5, 0.9), (1.2, 1.6), (2.3, 4.3), (5.3, 9.0), (9.4, 10.0)]

    def swept(self, **settings):
        wanted = SweepSettings(**settings)
        sheet = desk_sheet("r", 10)
        finds = sweep(self.transcript, self.silent, wanted)
        return finds, apply(sheet, sweep_edit(sheet.pieces[0], self.transcript, finds, wanted))

    def test_fillers_and_pauses_are_found(self):
        finds, _ = self.swept()
        self.assertEqual([find.text for find in finds.finds if find.kind == "filler"], ["um", "Uh,"])
        found = [(find.start, find.end) for find in finds.finds if find.kind == "pause"]
        # The two halves of the pause around "um" make one long pause once it is gone.
        self.assertEqual(found, [(0.5, 0.9), (1.2, 1.6), (2.3, 4.3), (5.3, 9.0)])

    def test_what_is_left_of_a_pause_is_what_was_asked_for(self):
        _, sheet = self.swept(pause_left=0.4)
        spans = kept_spans(self.transcript, sheet.pieces[0])
        for start, end in ((2.3, 4.3), (5.3, 9.0)):
            left = sum(max(0, min(b, end) - max(a, start)) for a, b in spans)
            self.assertAlmostEqual(left, 0.4, delta=0.01)
        around_um = sum(max(0, min(b, 1.6) - max(a, 0.5)) for a, b in spans)
        self.assertAlmostEqual(around_um, 0.4, delta=0.06)

    def test_what_it_says_it_saves_is_what_it_saves(self):
        finds, sheet = self.swept()
        kept = sum(b - a for a, b in kept_spans(self.transcript, sheet.pieces[0]))
        self.assertAlmostEqual(10 - kept, finds.saves, delta=0.3)

    def test_only_the_kinds_asked_for(self):
        finds, _ = self.swept(kinds=frozenset({"filler"}))
        self.assertEqual({find.kind for find in finds.finds}, {"filler"})

    def test_a_sound_in_a_gap_is_no_pause(self):
        # Somebody laughs from 6 to 8: the gap between the words is long, its silences are not.
        wanted = SweepSettings(kinds=frozenset({"pause"}))
        finds = sweep(self.transcript, [(5.3, 5.6), (8.7, 9.0)], wanted)
        self.assertEqual(finds.finds, ())


class Silences(unittest.TestCase):
    def test_silence_is_found_at_any_level_of_the_room(self):
        rng = np.random.default_rng(1)
        for room in (0.0003, 0.003, 0.02):
            speech = rng.normal(0, 0.2, 16000 * 6).astype(np.float32)
            speech[32000:48000] = 0
            speech += rng.normal(0, room, len(speech)).astype(np.float32)
            found = silences(speech, 16000, 0.3)
            self.assertEqual(len(found), 1)
            self.assertAlmostEqual(found[0][0], 2.0, delta=0.02)
            self.assertAlmostEqual(found[0][1], 3.0, delta=0.02)

    def test_sound_without_silences_has_none(self):
        steady = np.random.default_rng(1).normal(0, 0.1, 16000 * 4).astype(np.float32)
        self.assertEqual(silences(steady, 16000, 0.3), [])


class OnTheTalk(ScratchCase):
    def test_the_pauses_of_the_script_are_found(self):
        wav = self.scratch / "t.wav"
        truth = demo_truth()
        speech_wav(DEMO / "speech" / "talk.opus", wav, truth["duration"])
        silent = find_silences(read_wav(wav), SPEECH_RATE)
        finds = sweep(demo_transcript(), silent, SweepSettings(kinds=frozenset({"pause"})))
        spoken = truth["utterances"]
        gaps = [(a["end"], b["start"]) for a, b in itertools.pairwise(spoken) if b["start"] - a["end"] >= 0.8]
        self.assertGreater(len(gaps), 30)
        found = 0
        for start, end in gaps:
            middle = (start + end) / 2
            found += any(find.start < middle < find.end for find in finds.finds)
        self.assertGreaterEqual(found / len(gaps), 0.95)


def said(text: str, gap: float = 0.04) -> Transcript:
    """Words at an even pace; "|" is a pause of half a second; um and uh are fillers."""
    at, words = 0.2, []
    for part in text.split():
        if part == "|":
            at += 0.5
            continue
        kind = "filler" if part.strip(",.…").lower() in ("um", "uh") else "word"
        words.append(word(len(words) + 1, part, round(at, 3), round(at + 0.25, 3), kind))
        at += 0.25 + gap
    return Transcript(duration=at + 1, words=tuple(words))


class Kinds(unittest.TestCase):
    def found(self, kind: str, text: str) -> list[str]:
        finds = sweep(said(text), [], SweepSettings(kinds=frozenset({kind, "filler"})))
        return [find.text for find in finds.finds if find.kind == kind]

    def test_filler_phrases_only_where_they_say_nothing(self):
        for text, phrases in (
            ("It was, you know, a good clock.", ["you know,"]),
            ("Do you know what a clock is?", []),
            ("As you know, clocks stop.", []),
            ("I mean, it stopped.", ["I mean,"]),
            ("That is what I mean by stopping.", []),
            ("It was sort of strange to see.", ["sort of"]),
            ("It is a sort of clock.", []),
            ("This kind of thing happens.", []),
            ("I am that kind of person.", []),
            ("Nobody is any kind of a person like that.", []),
            ("He was, like, forty years old.", ["like,"]),
            ("It looks like a clock.", []),
            ("I like clocks.", []),
        ):
            self.assertEqual(self.found("phrase", text), phrases, text)

    def test_repeats_are_found_and_emphasis_is_not(self):
        for text, words in (
            ("And we, and we opened it.", ["And we,"]),
            ("The the clock stopped.", ["The"]),
            ("I, um, I think so.", ["I,"]),
            ("They throw it away because… because nobody can.", ["because…"]),
            ("It was very very old.", []),
            ("No, no, that is fine.", []),
            ("So many toasters. So many toasters.", []),
            ("It said that that was all.", []),
            ("So, so we gave it one.", ["So,"]),
            ("It was dry, dry, dry.", []),
            ("Dry, dry, dry, all summer.", []),
            ("We we we went home.", ["We", "we"]),
            ("We only, we only, we only went home.", ["We only,", "we only,"]),
            ("Then we came. We came to the shop.", ["we came."]),
            ("We came back. We came back.", []),
            ("It was so, so good.", []),
            ("It turned. Slowly, slowly. Then it stopped.", []),
            ("It turned. No, no, no. It stopped.", []),
            ("Again and again and again it stopped.", []),
            ("And and it stopped.", ["And"]),
            ("And we and we stopped.", ["And we"]),
        ):
            self.assertEqual(self.found("repeat", text), words, text)

    def test_restarts_are_found_and_parallels_are_not(self):
        for text, words in (
            ("We opened the, we opened a library.", ["We opened the,"]),
            ("Last year we, um, last year they came.", ["Last year we,"]),
            ("I was going to, I was asked to stay.", ["I was going to,"]),
            ("It needed oil, and a, and the little patience.", ["and a,"]),
            ("It opened in the two, in the quietest part of the talk.", ["in the two,"]),
            ("It opened in the morning, in the evening, at night.", []),
            ("It is strange to be on the side of the, um, the microphone.", []),
            ("I went to the shop, I went to the bank.", []),
            ("The first summer, we only, the first summer it rained.", ["The first summer, we only,"]),
            ("We opened the. We opened a library.", ["We opened the."]),
            ("We opened a shop. We opened a library.", []),
            ("It takes two. It was the, it takes two minutes.", ["It takes two. It was the,"]),
            ("It takes two minutes, and, it really helps us.", []),
            ("It is not that they are lazy, and, it is not that they slept.", []),
            ("My back is not what it was, and, my wife says so.", []),
            ("No, no, no. I went home.", []),
            ("They throw away. They throw everything.", []),
            ("You need a table, you need a lamp.", []),
            ("They are tired, and they are happy.", []),
        ):
            self.assertEqual(self.found("restart", text), words, text)

    def test_a_fragment_said_three_times_around_a_full_stop_is_left_once(self):
        text = "The first summer, we only, the first summer. The first summer, it rained all day."
        transcript = said(text)
        finds = sweep(transcript, [], SweepSettings(kinds=frozenset({"repeat", "restart", "retake"}))).finds
        gone = {word for find in finds for word in find.words}
        kept = " ".join(word.text for word in transcript.words if word.id not in gone)
        self.assertEqual(kept, "The first summer, it rained all day.")

    def test_the_earlier_of_two_takes_goes_with_the_remark_between(self):
        text = "Good evening all. A clock is a small promise you keep. Sorry, let me say that again. A clock is a promise that you keep. Good."
        self.assertEqual(
            self.found("retake", text), ["A clock is a small promise you keep. Sorry, let me say that again."]
        )
        self.assertEqual(
            self.found("retake", "We mended the old kettle. We sold the old bicycle. We kept the lamp."), []
        )

    def test_takes_are_found_where_commas_join_sentences_and_fillers_part_them(self):
        text = "At the end of the season, | the old camera still had film in it. | | The old camera still had film in it. Good."
        self.assertEqual(self.found("retake", text), ["the old camera still had film in it."])
        text = "They are ashamed that they broke it. | They are ashamed that they, um, | do not know how it works."
        self.assertEqual(self.found("retake", text), [], "said alike on purpose")
        text = "They mended the gate in the rain. | | They mended the gate. | You know, | in the rain. We left."
        self.assertEqual(self.found("retake", text), ["They mended the gate in the rain."])

    def test_a_take_broken_off_counts(self):
        text = "In our first winter we were | | In our first winter we were given nineteen hammers."
        self.assertEqual(self.found("retake", text), ["In our first winter we were"])

    def test_what_is_found_does_not_hang_on_the_ids(self):
        text = "We opened the um we opened a library. And we, and we left. In our first winter we were | | In our first winter we were given two."
        transcript = said(text)
        ids = [1000 - each.id for each in transcript.words]  # as after words were joined and split
        other = transcript.model_copy(
            update={
                "words": tuple(
                    each.model_copy(update={"id": new}) for each, new in zip(transcript.words, ids, strict=True)
                )
            }
        )
        settings = SweepSettings(kinds=frozenset({"filler", "repeat", "restart", "retake"}))
        finds = [[(each.kind, each.text) for each in sweep(one, [], settings).finds] for one in (transcript, other)]
        self.assertEqual({kind for kind, _ in finds[0]}, settings.kinds)
        self.assertEqual(finds[0], finds[1])

    def test_what_another_speaker_says_again_is_an_answer(self):
        for kind, text, turn in (
            ("repeat", "And after that, after that, a torch.", 3),
            ("restart", "Do you open the, do you open a lamp first?", 4),
            ("retake", "You open the pepper mill first. You open the pepper mill first. Yes.", 6),
        ):
            transcript = said(text)
            settings = SweepSettings(kinds=frozenset({kind}))
            self.assertEqual([find.kind for find in sweep(transcript, [], settings).finds], [kind])
            words = tuple(
                word.model_copy(update={"speaker": "S1" if n < turn else "S2"})
                for n, word in enumerate(transcript.words)
            )
            two = transcript.model_copy(update={"words": words})
            self.assertEqual(sweep(two, [], settings).finds, (), text)

    def test_no_word_is_in_two_finds(self):
        text = "We opened the, um, we opened a library. You know, you know, it was, um, um, good."
        finds = sweep(
            said(text), [], SweepSettings(kinds=frozenset({"filler", "phrase", "repeat", "restart", "retake"}))
        )
        taken = [each for find in finds.finds for each in find.words]
        self.assertEqual(len(taken), len(set(taken)))
