"""``hovvet render``: an edition of a sheet, as the desk would export it."""

import argparse
import tempfile
from collections.abc import Container
from contextlib import ExitStack
from pathlib import Path

from hovvet.cli.commands import Commands
from hovvet.cli.files import measured, sheet_in, showing, sound_of, taken_in, transcript_in, write
from hovvet.core.captions.fonts import CAPTION_FONTS, Font
from hovvet.core.captions.own_fonts import bring_in_font
from hovvet.core.colour.cube_file import read_cube
from hovvet.core.colour.lut import keep
from hovvet.core.compile.kit import Kit
from hovvet.core.compile.source import Source
from hovvet.core.compile.steps import compile
from hovvet.core.compile.target import target_of
from hovvet.core.errors import CoreError
from hovvet.core.media.decode import SPEECH_RATE
from hovvet.core.media.info import NO_MEDIA
from hovvet.core.media.intake import Intake
from hovvet.core.media.working import working_copy
from hovvet.core.picture.faces import Faces, find_faces
from hovvet.core.picture.own_picture import bring_in_picture
from hovvet.core.picture.own_sticker import bring_in_sticker
from hovvet.core.render.cache import ChunkCache
from hovvet.core.render.export import Folders, export, file_digest
from hovvet.core.render.output import KINDS, QUALITIES, Output, encoding_of
from hovvet.core.render.sources import Original
from hovvet.core.sheet.contents.logo import Logo
from hovvet.core.sheet.contents.look import Look
from hovvet.core.sheet.contents.sound import Sound
from hovvet.core.sheet.contents.sticker import Sticker
from hovvet.core.sheet.model import Sheet
from hovvet.core.sound.beats import beats_of
from hovvet.core.sound.silence import Levels, levels
from hovvet.core.words.transcript import Transcript


def add(commands: Commands) -> None:
    """Add the command to those of ``hovvet``."""
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
    command.set_defaults(run=_run)


def _named(text: str) -> tuple[str, Path]:
    name, mark, path = text.partition("=")
    if not (name and mark and path):
        raise argparse.ArgumentTypeError(f"write it as ID=FILE; not {text!r}")
    return name, Path(path)


def _run(options: argparse.Namespace) -> None:
    kind = options.out.suffix.lower().lstrip(".")
    if kind not in KINDS:
        raise CoreError(f"{options.out} is no kind of file that can be made. Choose one of: {', '.join(KINDS)}.")
    sheet, transcripts = sheet_in(options.sheet), {name: transcript_in(path) for name, path in options.words}
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
        kit, originals = _kit(options, Path(stack.enter_context(tempfile.TemporaryDirectory())))
        _check_kit(sheet, kit)
        taken = {name: stack.enter_context(taken_in(media[name])) for name in recordings}
        sources = {}
        for name, each in taken.items():
            info, energy = measured(each)
            transcript = transcripts.get(name) or Transcript(duration=info.duration)
            fits = any(
                isinstance(layer.content, Sound) and layer.content.media == name and layer.content.ends == "fitted"
                for layer in sheet.layers
            )
            beats = beats_of(each.path, info.duration) if fits and info.has_sound else None
            faces = _faces(each) if any(layer.content.follows_faces for layer in sheet.layers) else None
            sources[name] = Source(transcript, info, Levels(levels(sound_of(each), SPEECH_RATE)), faces, energy, beats)
            originals[name] = Original(each.path, info, file_digest(each.path))
        target = target_of(sheet, edition, kit)
        plan = compile(sheet, sources, target)
        if options.plan:
            write(options.plan, plan.model_dump_json(indent=1) + "\n")
        output = Output(kind=kind, quality=options.quality)
        folders = None
        if options.cache:
            (options.cache / "prepared").mkdir(parents=True, exist_ok=True)
            folders = Folders(ChunkCache(options.cache / "chunks"), options.cache / "prepared")
        encoding = encoding_of(output, target.outlet, plan.seconds)
        export(plan, originals, options.out, showing("exporting"), output, encoding, folders)


def _kit(options: argparse.Namespace, folder: Path) -> tuple[Kit, dict[str, Original]]:
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
    return Kit(fonts=CAPTION_FONTS | fonts, tables=tables, pictures=pictures, stickers=stickers), originals


def _check_kit(sheet: Sheet, kit: Kit) -> None:
    """Raises CoreError when a sheet names something of one's own that was not given."""
    named: list[tuple[str, str, Container[str]]] = []
    if sheet.style:
        named.append(("font", sheet.style.font, kit.fonts))
    for layer in sheet.layers:
        if isinstance(layer.content, Look) and layer.content.has_table:
            named.append(("table", layer.content.table, kit.tables))
        if isinstance(layer.content, Sticker | Logo):
            named.append(("sticker", layer.content.media, kit.stickers))
    for what, name, known in named:
        if name not in known:
            raise CoreError(f"The sheet names a {what} of your own. Say where it is: --{what} {name}=FILE.")


def _faces(taken: Intake) -> Faces | None:
    """The faces in the picture of a file, as the desk would find them."""
    if not taken.media.has_picture:
        return None
    with tempfile.TemporaryDirectory() as folder:
        working = Path(folder) / "working.mp4"
        working_copy(taken.path, taken.media, working, showing("preparing"))
        return find_faces(working, taken.media.duration, showing("looking for faces"))
