"""Broken files by the hundred through everything that reads them, with limits on: ``python bench/fuzz.py [seconds]``.

The corpus is made by code from small good files: cut short, bits flipped, blocks zeroed or swapped, headers that lie, playlists
and scripts under the names of films, words files of odd shapes. Each file must end in a result or in a plain message, within the
limits. Prints how each ended, the longest time and the most memory of the programs that read them; exits with 1 for anything else.
"""

import io
import random
import resource
import struct
import subprocess
import sys
import tempfile
import time
from collections import Counter
from collections.abc import Iterator
from functools import partial
from pathlib import Path

ROOT = Path(__file__).parent.parent
sys.path.insert(0, str(ROOT))

from PIL import Image

from hovvet.core.captions.fonts import CAPTION_FONTS, FONTS
from hovvet.core.captions.own_fonts import bring_in_font
from hovvet.core.colour.cube_file import read_cube
from hovvet.core.errors import CoreError
from hovvet.core.media.checked import check_wav
from hovvet.core.media.decode import speech_wav
from hovvet.core.media.intake import take_in
from hovvet.core.media.working import thumbnails, working_copy
from hovvet.core.picture.own_picture import bring_in_picture
from hovvet.core.picture.own_sticker import bring_in_sticker
from hovvet.core.sheet.contents.logo import Logo
from hovvet.core.sheet.house import HouseStyle
from hovvet.core.sheet.house_file import AssetFile, PackedHouse, renamed, write_house
from hovvet.core.sound.energy import energy_of
from hovvet.core.words.words_apart import read_apart
from hovvet.core.words.words_in import read_words

OWN_LONGEST = 12.0  # seconds that a file of a person's own may take
LONGEST = 120.0  # seconds that one file of this size may take on a busy machine
SEED = 7


def good_files(folder: Path) -> list[Path]:
    """Two seconds in each of the usual containers."""
    made = []
    for name in ("a.mp4", "b.mkv", "c.webm", "d.mov", "e.ts", "f.avi", "g.mp3", "h.wav", "i.ogg", "j.flac", "k.m4a"):
        sound_only = name[0] in "ghijk"
        picture = [] if sound_only else ["-f", "lavfi", "-t", "2", "-i", "testsrc2=s=160x90:r=25"]
        command = ["ffmpeg", "-v", "error", "-y", *picture, "-f", "lavfi", "-t", "2", "-i", "sine=440:r=48000"]
        subprocess.run([*command, "-shortest", str(folder / name)], check=True)
        made.append(folder / name)
    return made


def media_corpus(folder: Path, rng: random.Random) -> Iterator[Path]:
    """Broken media files, made one at a time."""
    for good in good_files(folder):
        data = good.read_bytes()
        for n in range(24):
            bad = bytearray(data)
            match n % 6:
                case 0:
                    bad = bad[: rng.randrange(1, len(bad))]
                case 1:
                    for _ in range(rng.choice((1, 10, 200))):
                        bad[rng.randrange(len(bad))] ^= 1 << rng.randrange(8)
                case 2:
                    at = rng.randrange(len(bad))
                    bad[at : at + rng.randrange(1, 2000)] = b""
                case 3:
                    at = rng.randrange(len(bad))
                    bad[at : at + 400] = bytes(min(400, len(bad) - at))
                case 4:  # numbers in the header that lie
                    at = rng.randrange(min(len(bad) - 4, 400))
                    bad[at : at + 4] = struct.pack(rng.choice("<>") + "I", rng.choice((0, 1, 2**31 - 1, 2**32 - 1)))
                case 5:
                    bad = bytearray(rng.randbytes(rng.randrange(64))) + bad + rng.randbytes(rng.randrange(5000))
            out = folder / f"bad-{n}{good.suffix}"
            out.write_bytes(bad)
            yield out
    scripts = (
        b"#EXTM3U\n#EXTINF:10,\nfile:///etc/passwd\n", b"ffconcat version 1.0\nfile /etc/passwd\n",
        b"<?xml version='1.0'?><MPD><Period/></MPD>", b"[playlist]\nFile1=http://127.0.0.1/x\n", b"%PDF-1.4\n", b"GIF89a" + bytes(99),
        b"\x89PNG\r\n\x1a\n" + bytes(99), b"RIFF\xff\xff\xff\xffWAVEfmt ", b"", b"\0" * 100_000,
    )  # fmt: skip
    for n, data in enumerate(scripts):
        for ending in (".mp4", ".mp3", ".m3u8"):
            out = folder / f"script-{n}{ending}"
            out.write_bytes(data)
            yield out


def words_corpus(folder: Path, rng: random.Random) -> Iterator[Path]:
    """Words files of odd shapes."""
    cue = "1\n00:00:01,000 --> 00:00:02,000\nHello there\n\n"
    texts = [
        "{" * 100_000, "<" * 100_000, "WEBVTT\n\n" + "{\\" * 50_000, cue * 20_000, "\n" * 1_000_000, cue.replace("01", "99"),
        "--> " * 20_000, "00:" * 50_000, "a:" * 50_000, "\ufeff" * 1000 + cue, cue.replace("Hello", "\\N" * 2000), "١:٢ --> ٣\nx\n",
    ]  # fmt: skip
    for n, text in enumerate(texts):
        for ending in (".srt", ".vtt", ".txt"):
            out = folder / f"words-{n}{ending}"
            out.write_text(text)
            yield out
    for n in range(20):
        out = folder / f"noise-{n}.srt"
        out.write_bytes(rng.randbytes(rng.randrange(5000)) + cue.encode())
        yield out


def prepare(path: Path, scratch: Path) -> None:
    """What bringing in does with a file, but for the words."""
    taken = take_in(path, scratch / "bridged.mkv")
    media = taken.media
    if media.has_sound:
        speech_wav(taken.path, scratch / "speech.wav", media.duration)
        check_wav(scratch / "speech.wav")
        energy_of(taken.path, media.channels, media.duration)
    if media.has_picture:
        thumbnails(taken.path, media, scratch / "thumbs.jpg")
    working_copy(taken.path, media, scratch / "working.mp4")


def own_corpus(folder: Path, rng: random.Random) -> Iterator[tuple[str, Path]]:
    """Fonts, drawings, pictures, tables of colours and house styles with bytes flipped: kind and file."""
    good = own_files(folder)
    while True:
        for kind, data in good.items():
            bad = bytearray(data)
            for _ in range(rng.choice((1, 1, 1, 8))):
                bad[rng.randrange(len(bad))] ^= 1 << rng.randrange(8)
            if rng.random() < 0.1:
                bad = bad[: rng.randrange(len(bad))]
            out = folder / f"own-{kind}"
            out.write_bytes(bad)
            yield kind, out


def own_files(folder: Path) -> dict[str, bytes]:
    """A good one of each kind."""
    picture = io.BytesIO()
    Image.new("RGB", (60, 40), "#2B5FC7").save(picture, "PNG")
    moving = io.BytesIO()
    frames = [Image.new("RGB", (40, 40), colour) for colour in ("#2B5FC7", "#FFD66B", "#4F7A4B")]
    frames[0].save(moving, "GIF", save_all=True, append_images=frames[1:], duration=100)
    table = "LUT_3D_SIZE 4\n" + "".join(
        f"{r / 3:.3f} {g / 3:.3f} {b / 3:.3f}\n" for b in range(4) for g in range(4) for r in range(4)
    )
    font = FONTS / CAPTION_FONTS["plain"].file
    svg = (ROOT / "demo" / "stickers" / "quillhaven-mark.svg").read_bytes()
    mark = AssetFile(key="k1", kind="sticker", name="Mark", file="assets/1.png")
    style = HouseStyle(laid=(Logo(media="k1"),))
    house = write_house("Style", style, {mark.key: (mark.kind, mark.name, picture.getvalue())})
    return {
        "font": font.read_bytes(), "svg": svg, "picture": picture.getvalue(), "gif": moving.getvalue(), "cube": table.encode(), "house": house,
        "srt": b"1\n00:00:01,000 --> 00:00:02,000\nHello <i>there</i>\n\n" * 3, "vtt": b"WEBVTT\n\n00:01.000 --> 00:02.000\n<v Maren>Hello\n" * 3,
    }  # fmt: skip


def read_own(kind: str, path: Path) -> None:
    """What bringing in does with such a file."""
    out, data = path.with_name(f"{path.name}.out"), path.read_bytes()
    match kind:
        case "font":
            bring_in_font(data, out)
        case "svg" | "gif":
            bring_in_sticker(data, out)
        case "picture":
            bring_in_picture(data, out)
        case "cube":
            read_cube(data)
        case "house":
            packed = PackedHouse(data)
            for each in packed.told.assets:
                packed.file(each)
            renamed(packed.told.style, {"k1": "k2"})
        case "srt" | "vtt":
            read_words(data, f"x.{kind}")


def outcome(work, path: Path) -> tuple[str, float]:  # noqa: ANN001 - prepare or read_apart
    """How one file ended, and after how many seconds."""
    began = time.monotonic()
    try:
        work(path)
        how = "read"
    except CoreError:
        how = "refused"
    except Exception as error:
        print(f"{path.name}: {error!r}")
        how = "crashed"
    spent = time.monotonic() - began
    if spent > LONGEST:
        how = "too slow"
    return how, spent


def main(seconds: float) -> int:
    """Go through media, words and files of one's own, the first and the last for so many seconds each; 1 when anything was
    neither read nor refused in time."""
    rng = random.Random(SEED)
    ended: Counter[str] = Counter()
    longest = (0.0, "")
    with tempfile.TemporaryDirectory() as holder:
        folder = Path(holder)

        def whole(path: Path) -> None:
            with tempfile.TemporaryDirectory(dir=folder) as scratch:
                prepare(path, Path(scratch))

        corpus, until = [*media_corpus(folder, rng)], time.monotonic() + seconds
        rng.shuffle(corpus)
        for path in corpus:
            if time.monotonic() > until:
                break
            how, spent = outcome(whole, path)
            ended[f"media {how}"] += 1
            longest = max(longest, (spent, path.name))
        for path in words_corpus(folder, rng):
            how, spent = outcome(read_apart, path)
            ended[f"words {how}"] += 1
            longest = max(longest, (spent, path.name))
        until = time.monotonic() + seconds
        for kind, path in own_corpus(folder, rng):
            if time.monotonic() > until:
                break
            how, spent = outcome(partial(read_own, kind), path)
            ended[f"{kind} {how}"] += 1
            if spent > OWN_LONGEST:
                print(f"{kind}: {spent:.1f} s")
                ended[f"{kind} too slow"] += 1
            longest = max(longest, (spent, path.name))
    most = resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss / 1024
    print(f"{ended.total()} files: {dict(sorted(ended.items()))}")
    print(f"longest {longest[0]:.1f} s ({longest[1]}); most memory of a program {most:.0f} MB")
    return 0 if all(how.endswith((" read", " refused")) for how in ended) else 1


if __name__ == "__main__":
    sys.exit(main(float(sys.argv[1]) if len(sys.argv) > 1 else 600.0))
