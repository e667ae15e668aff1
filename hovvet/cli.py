"""The ``hovvet`` command: the core from a shell, without a server."""

import argparse
import json
import sys
import tempfile
from collections.abc import Container, Iterator, Sequence
from contextlib import ExitStack, contextmanager
from pathlib import Path
from typing import get_args

import numpy as np
from pydantic import ValidationError

from hovvet.core.captions.fonts import CAPTION_FONTS, Font
from hovvet.core.captions.own_fonts import bring_in_font
from hovvet.core.captions.style import CaptionStyle, caption_style
from hovvet.core.colour.cube_file import read_cube
from hovvet.core.colour.lut import keep
from hovvet.core.engines.meaning import vectors
from hovvet.core.engines.whisper import Quality, WhisperRecogniser
from hovvet.core.errors import CoreError
from hovvet.core.formats.subtitles import subtitles
from hovvet.core.formats.transcripts import TranscriptKind, transcript_file
from hovvet.core.formats.words_apart import read_apart
from hovvet.core.formats.words_in import Said
from hovvet.core.media.checked import published
from hovvet.core.media.decode import SPEECH_RATE, speech_wav
from hovvet.core.media.ffmpeg import Progress
from hovvet.core.media.info import NO_MEDIA
from hovvet.core.media.intake import Intake, take_in
from hovvet.core.media.wav import open_wav, read_wav
from hovvet.core.media.working import loudness, working_copy
from hovvet.core.passages.find import LONGEST, find_passages, passages_file
from hovvet.core.passages.kept import after_sweep
from hovvet.core.passages.scoring import SHORTEST
from hovvet.core.picture.faces import Faces, find_faces
from hovvet.core.picture.own_picture import bring_in_picture
from hovvet.core.picture.own_sticker import bring_in_sticker
from hovvet.core.plan.compile import compile
from hovvet.core.plan.outlets import Outlet, outlet
from hovvet.core.plan.shelf import Shelf
from hovvet.core.plan.source import Source
from hovvet.core.plan.target import Target, target_of
from hovvet.core.render.cache import ChunkCache
from hovvet.core.render.export import Folders, export, file_digest
from hovvet.core.render.output import KINDS, QUALITIES, Output, encoding_of
from hovvet.core.render.sources import Original
from hovvet.core.sheet.applying import apply
from hovvet.core.sheet.contents.logo import Logo
from hovvet.core.sheet.contents.look import Look
from hovvet.core.sheet.contents.sticker import Sticker
from hovvet.core.sheet.model import Piece, Sheet
from hovvet.core.sheet.upgrade import read_sheet
from hovvet.core.sound.silence import Levels, Sound, levels
from hovvet.core.sweep.finds import FindKind
from hovvet.core.sweep.settings import SweepSettings
from hovvet.core.sweep.sweep import ALL_KINDS, find_silences, sweep, sweep_edit
from hovvet.core.words.corrections import SuggestSpeakers, correct
from hovvet.core.words.given import from_cues, from_text
from hovvet.core.words.languages import LANGUAGES
from hovvet.core.words.speakers import suggest_speakers
from hovvet.core.words.timing import Aligner, refiner
from hovvet.core.words.transcribe import transcribe
from hovvet.core.words.transcript import Transcript

_RECORDING = "recording"  # what the one recording of a command is called in its sheet


def main(arguments: Sequence[str] | None = None) -> int:
    """Run one command; 0 when it worked, 1 with a message when it could not be done."""
    options = _parser().parse_args(arguments)
    try:
        options.run(options)
    except CoreError as error:
        _tell(f"hovvet: {error}")
        return 1
    except OSError as error:
        _tell(f"hovvet: {error.filename or ''}: {error.strerror or error}")
        return 1
    except KeyboardInterrupt:
        _tell("hovvet: stopped.")
        return 130
    return 0


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="hovvet", description=__doc__)
    commands = parser.add_subparsers(required=True, metavar="COMMAND")

    command = commands.add_parser("transcribe", help="recognise the speech in a file")
    command.add_argument("media", type=Path, metavar="FILE")
    command.add_argument("-o", dest="out", type=Path, required=True, metavar="words.json", help="or .txt, .srt, .vtt")
    command.add_argument("--words", type=Path, metavar="FILE", help="an SRT, VTT or TXT file with the words said")
    command.add_argument("--term", action="append", default=[], metavar="NAME", help="a name or term to expect")
    command.add_argument("--careful", action="store_true", help="better, and slower")
    command.add_argument("--language", choices=list(LANGUAGES), default="en", help="others need the careful recogniser")
    command.add_argument(
        "--speakers",
        type=int,
        nargs="?",
        const=0,
        metavar="N",
        help="suggest who speaks, N people or as many as are heard",
    )
    command.set_defaults(run=_transcribe)

    command = commands.add_parser("sweep", help="find what could be taken out")
    command.add_argument("words", type=Path, metavar="words.json")
    command.add_argument("--media", type=Path, required=True, metavar="FILE")
    command.add_argument("-o", dest="out", type=Path, required=True, metavar="finds.json")
    command.add_argument("--kinds", type=_kinds, default=ALL_KINDS, metavar="KIND,...")
    _pauses(command)
    command.set_defaults(run=_sweep)

    command = commands.add_parser("passages", help="find what would stand alone as a clip")
    command.add_argument("words", type=Path, metavar="words.json")
    command.add_argument("--media", type=Path, metavar="FILE", help="to know its silences")
    command.add_argument("--longest", type=float, default=LONGEST, metavar="S", help="seconds after the sweep")
    command.add_argument("-o", dest="out", type=Path, required=True, metavar="passages.json")
    command.set_defaults(run=_passages)

    command = commands.add_parser("clip", help="export a captioned clip")
    command.add_argument("media", type=Path, metavar="FILE")
    command.add_argument("-o", dest="out", type=Path, required=True, metavar="out.mp4")
    command.add_argument("--start", type=float, default=0.0, metavar="S", help="seconds")
    command.add_argument("--end", type=float, default=None, metavar="S", help="seconds")
    command.add_argument("--sweep", type=_kinds, default=frozenset(), metavar="KIND,...", help="take these out")
    _pauses(command)
    command.add_argument("--outlet", default="tall")
    command.add_argument("--captions", default="bold", metavar="STYLE|none")
    command.add_argument("--srt", type=Path, metavar="out.srt")
    command.add_argument("--transcript", type=Path, metavar="words.json", help="use this instead of recognising")
    command.set_defaults(run=_clip)

    command = commands.add_parser("render", help="export an edition of a sheet")
    command.add_argument("sheet", type=Path, metavar="sheet.json")
    command.add_argument(
        "--media", type=_named, action="append", default=[], metavar="ID=FILE", help="of each recording"
    )
    command.add_argument("--words", type=_named, action="append", default=[], metavar="ID=FILE", help="its transcript")
    for what, of in (
        ("font", "of captions"),
        ("table", "of colours (.cube)"),
        ("picture", "shown or stood over"),
        ("sticker", "or logo"),
    ):
        told = f"{of}, where it is one of your own"
        command.add_argument(f"--{what}", type=_named, action="append", default=[], metavar="ID=FILE", help=told)
    command.add_argument("--edition", metavar="ID", help="the first, unless it is told")
    command.add_argument("-o", dest="out", type=Path, required=True, metavar="out.mp4", help=f"or .{', .'.join(KINDS)}")
    command.add_argument("--quality", choices=list(QUALITIES), default="good")
    command.add_argument("--plan", type=Path, metavar="plan.json", help="write down what is seen and heard when")
    command.add_argument("--cache", type=Path, metavar="DIR", help="keep what was drawn, for the next time")
    command.set_defaults(run=_render)
    return parser


def _named(text: str) -> tuple[str, Path]:
    name, mark, path = text.partition("=")
    if not (name and mark and path):
        raise argparse.ArgumentTypeError(f"write it as ID=FILE; not {text!r}")
    return name, Path(path)


def _pauses(command: argparse.ArgumentParser) -> None:
    usual = SweepSettings()
    command.add_argument(
        "--pause-from", type=float, default=usual.pause_from, metavar="S", help="shorten pauses from here on"
    )
    command.add_argument("--pause-left", type=float, default=usual.pause_left, metavar="S", help="what is left of them")


def _settings(options: argparse.Namespace, kinds: frozenset[FindKind], language: str) -> SweepSettings:
    pauses = {"pause_from": options.pause_from, "pause_left": options.pause_left}
    try:
        return SweepSettings.usual(language).changed(pauses).model_copy(update={"kinds": kinds})
    except ValidationError as error:
        first = error.errors()[0]
        raise CoreError(f"--{str(first['loc'][0]).replace('_', '-')}: {first['msg']}.") from None


def _kinds(text: str) -> frozenset[FindKind]:
    known = get_args(FindKind)
    kinds = [kind.strip() for kind in text.split(",") if kind.strip()]
    unknown = [kind for kind in kinds if kind not in known]
    if unknown or not kinds:
        raise argparse.ArgumentTypeError(f"kinds are {', '.join(known)}; not {', '.join(unknown) or 'nothing'}")
    return frozenset(kinds)  # type: ignore[arg-type]


def _transcribe(options: argparse.Namespace) -> None:
    kind = options.out.suffix.lower().lstrip(".")
    if kind not in get_args(TranscriptKind):
        kind = "json"
    said = read_apart(options.words) if options.words else None
    with _taken_in(options.media) as taken:
        quality: Quality = "careful" if options.careful else "quick"
        recogniser = WhisperRecogniser(language=options.language, quality=quality)
        transcript = _recognised(taken, recogniser, said, options.term, options.speakers)
    _write(options.out, transcript_file(transcript, kind))


def _sweep(options: argparse.Namespace) -> None:
    transcript = _read(options.words)
    with _taken_in(options.media) as taken:
        silent = find_silences(_sound(taken), SPEECH_RATE)
    found = sweep(transcript, silent, _settings(options, options.kinds, transcript.language))
    _write(options.out, json.dumps(found.model_dump(mode="json"), ensure_ascii=False) + "\n")


def _passages(options: argparse.Namespace) -> None:
    if not options.longest > SHORTEST:
        raise CoreError(f"A passage has {SHORTEST:g} seconds at least: let --longest be more.")
    transcript = _read(options.words)
    silent = None
    if options.media:
        with _taken_in(options.media) as taken:
            silent = find_silences(_sound(taken), SPEECH_RATE)
    kept = after_sweep(transcript, silent, SweepSettings.usual(transcript.language))
    found = find_passages(transcript, vectors, options.longest, kept)
    _write(options.out, passages_file(found))
    _tell(f"{len(found)} passage{'' if len(found) == 1 else 's'}")


def _clip(options: argparse.Namespace) -> None:
    where = outlet(options.outlet)
    style = None if options.captions == "none" else caption_style(options.captions)
    with _taken_in(options.media) as taken:
        _export(options, taken, where, style)


def _render(options: argparse.Namespace) -> None:
    kind = options.out.suffix.lower().lstrip(".")
    if kind not in KINDS:
        raise CoreError(f"{options.out} is no kind of file that can be made. Choose one of: {', '.join(KINDS)}.")
    sheet, transcripts = _read_sheet(options.sheet), {name: _read(path) for name, path in options.words}
    media = dict(options.media)
    stills = {*dict(options.picture), *dict(options.sticker)}
    recordings = [name for name in sheet.media if name not in stills]
    for recording in recordings:
        if recording not in media:
            raise CoreError(
                f"The sheet shows “{recording}”: say which file that is, with --media {recording}=FILE, or with "
                f"--picture {recording}=FILE where it is a picture."
            )
    edition = sheet.edition(options.edition)
    if options.edition not in (None, edition.id):
        raise CoreError(
            f"There is no edition “{options.edition}”. There are: {', '.join(e.id for e in sheet.editions)}."
        )
    with ExitStack() as stack:
        taken = {name: stack.enter_context(_taken_in(media[name])) for name in recordings}
        sources, originals = {}, {}
        for name, each in taken.items():
            info = each.media
            if info.has_sound:
                info = info.model_copy(update={"lufs": loudness(each.path, info.duration)})
            transcript = transcripts.get(name) or Transcript(duration=info.duration)
            faces = _faces(each) if any(layer.content.follows_faces for layer in sheet.layers) else None
            sources[name] = Source(transcript, info, Levels(levels(_sound(each), SPEECH_RATE)), faces)
            originals[name] = Original(each.path, info, file_digest(each.path))
        shelf, brought = _shelf(options, Path(stack.enter_context(tempfile.TemporaryDirectory())))
        originals |= brought
        _check_shelf(sheet, shelf)
        target = target_of(sheet, edition, shelf)
        plan = compile(sheet, sources, target)
        if options.plan:
            _write(options.plan, plan.model_dump_json(indent=1) + "\n")
        output = Output(kind=kind, quality=options.quality)
        folders = None
        if options.cache:
            (options.cache / "prepared").mkdir(parents=True, exist_ok=True)
            folders = Folders(ChunkCache(options.cache / "chunks"), options.cache / "prepared")
        encoding = encoding_of(output, target.outlet, plan.seconds)
        export(plan, originals, options.out, _progress("exporting"), output, encoding, folders)


def _shelf(options: argparse.Namespace, folder: Path) -> tuple[Shelf, dict[str, Original]]:
    """Fonts, tables, pictures and stickers of one's own, checked and written to a folder, by the names that the sheet has for them."""
    fonts, pictures, stickers, originals = {}, {}, {}, {}
    for n, (name, path) in enumerate(options.font):
        made = folder / f"font-{n}"
        font = bring_in_font(path.read_bytes(), made)
        fonts[name] = Font(font.name, font.family, str(made), asset=name)
        originals[name] = Original(made, NO_MEDIA, font.family)
    for n, (name, path) in enumerate(options.table):
        made = folder / f"table-{n}"
        keep(read_cube(path.read_bytes()).lut, made)
        originals[name] = Original(made, NO_MEDIA, file_digest(made))
    for n, (name, path) in enumerate(options.picture):
        made = folder / f"picture-{n}"
        picture = bring_in_picture(path.read_bytes(), made)
        pictures[name] = picture.width, picture.height
        originals[name] = Original(made, NO_MEDIA, file_digest(made))
    for n, (name, path) in enumerate(options.sticker):
        made = folder / f"sticker-{n}"
        sticker = bring_in_sticker(path.read_bytes(), made)
        stickers[name] = sticker
        originals[name] = Original(made, NO_MEDIA, file_digest(made))
    tables = frozenset(name for name, _ in options.table)
    return Shelf(fonts=CAPTION_FONTS | fonts, tables=tables, pictures=pictures, stickers=stickers), originals


def _check_shelf(sheet: Sheet, shelf: Shelf) -> None:
    """Raises CoreError when a sheet names something of one's own that was not given."""
    named: list[tuple[str, str, Container[str]]] = []
    if sheet.style:
        named.append(("font", sheet.style.font, shelf.fonts))
    for layer in sheet.layers:
        if isinstance(layer.content, Look) and layer.content.has_table:
            named.append(("table", layer.content.table, shelf.tables))
        if isinstance(layer.content, Sticker | Logo):
            named += [("sticker", media, shelf.stickers) for media in layer.content.media_shown]
    for what, name, known in named:
        if name not in known:
            raise CoreError(f"The sheet names a {what} of your own. Say where it is: --{what} {name}=FILE.")


def _faces(taken: Intake) -> Faces | None:
    """The faces in the picture of a file, as the desk would find them."""
    if not taken.media.has_picture:
        return None
    with tempfile.TemporaryDirectory() as folder:
        working = Path(folder) / "working.mp4"
        working_copy(taken.path, taken.media, working, _progress("preparing"))
        return find_faces(working, taken.media.duration, _progress("looking for faces"))


def _export(options: argparse.Namespace, taken: Intake, where: Outlet, style: CaptionStyle | None) -> None:
    media = taken.media
    transcript = _read(options.transcript) if options.transcript else _recognised(taken, WhisperRecogniser())
    end = transcript.duration if options.end is None else min(options.end, transcript.duration)
    if not 0 <= options.start < end:
        raise CoreError(f"The clip would be empty: it would run from {options.start:g} s to {end:g} s.")
    sheet = Sheet(pieces=(Piece(id="p1", recording=_RECORDING, start=options.start, end=end),))
    sound = _sound(taken)
    if options.sweep:
        settings = _settings(options, options.sweep, transcript.language)
        finds = sweep(transcript, find_silences(sound, SPEECH_RATE), settings)
        sheet = apply(sheet, sweep_edit(sheet.pieces[0], transcript, finds, settings))
    if media.has_sound:
        media = media.model_copy(update={"lufs": loudness(taken.path, media.duration)})
    source = Source(transcript, media, Levels(levels(sound, SPEECH_RATE)))
    plan = compile(sheet, {_RECORDING: source}, Target(where, style))
    export(plan, {_RECORDING: Original(taken.path, media)}, options.out, _progress("exporting"))
    if options.srt:
        options.srt.write_text(subtitles(plan, "srt") or "")


def _recognised(
    taken: Intake,
    recogniser: WhisperRecogniser,
    said: Sequence[Said] | None = None,
    terms: Sequence[str] = (),
    speakers: int | None = None,
) -> Transcript:
    if not taken.media.has_sound:
        return Transcript(duration=taken.media.duration)
    with tempfile.TemporaryDirectory() as scratch:
        wav = Path(scratch) / "speech.wav"
        speech_wav(taken.path, wav, taken.media.duration)
        aligner, progress = Aligner(), _progress("transcribing")
        if said and said[0].start is None:
            transcript = from_text(wav, said, recogniser, aligner, progress)
        elif said:
            transcript = from_cues(wav, said, aligner, progress)
        else:
            transcript = transcribe(wav, recogniser, refiner(recogniser.language), progress, terms)
        if speakers is not None:
            turns = suggest_speakers(open_wav(wav), transcript.words, speakers or None)
            transcript = correct(transcript, SuggestSpeakers(turns=tuple(turns)))
        return transcript


@contextmanager
def _taken_in(path: Path) -> Iterator[Intake]:
    """The file looked into, within the limits that the server has too; what there is to tell is told."""
    with tempfile.TemporaryDirectory() as scratch:
        taken = take_in(path, Path(scratch) / "bridged.mkv")
        if taken.told:
            _tell(f"hovvet: {taken.told}")
        yield taken


def _sound(taken: Intake) -> Sound:
    """The sound at 16 kHz, mono; empty when there is none."""
    if not taken.media.has_sound:
        return np.zeros(0, np.float32)
    with tempfile.TemporaryDirectory() as scratch:
        wav = Path(scratch) / "speech.wav"
        speech_wav(taken.path, wav, taken.media.duration)
        return read_wav(wav)


def _read(path: Path) -> Transcript:
    try:
        return Transcript.model_validate_json(path.read_bytes())
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(map(str, first["loc"])) or "document"
        raise CoreError(
            f"{path} is not a transcript as written down in docs/formats.md: {where}: {first['msg']}"
        ) from None


def _read_sheet(path: Path) -> Sheet:
    try:
        return read_sheet(json.loads(path.read_bytes()))
    except (ValidationError, ValueError, AttributeError) as error:
        raise CoreError(f"{path} is not a sheet as written down in docs/formats.md: {error}") from None


def _write(path: Path, made: str) -> None:
    with published(path) as part:
        part.write_text(made)


def _progress(what: str) -> Progress:
    def show(part: float) -> None:
        if sys.stderr.isatty():
            _tell(f"\r{what} {part:4.0%}", end="\n" if part >= 1 else "")

    return show


def _tell(message: str, end: str = "\n") -> None:
    print(message, end=end, file=sys.stderr, flush=True)


if __name__ == "__main__":
    sys.exit(main())
