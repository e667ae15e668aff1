"""Whether captions can be read."""

from collections.abc import Iterator
from functools import partial

from hovvet.core.captions.fonts import FALLBACK
from hovvet.core.captions.layout import USUAL
from hovvet.core.captions.metrics import unwritten
from hovvet.core.captions.style import STYLES
from hovvet.core.compile.steps import unwritten_in
from hovvet.core.plan.model import Caption, PlanWord
from hovvet.core.proof.fault import Fix, Where
from hovvet.core.proof.looked import Looked
from hovvet.core.proof.registry import Found, check
from hovvet.core.proof.standing import elsewhere
from hovvet.core.proof.thresholds import SHORTEST_CAPTION
from hovvet.core.sheet.contents.wording import Wording
from hovvet.core.sheet.edits import BreakCaption, EditError, PutLayer, RemoveLayer, SetCaptions, SetLayout
from hovvet.core.sheet.model import Layer, WordRef
from hovvet.core.sheet.moving import fresh_names
from hovvet.core.value import with_changes

_SMALLER = (0.9, 0.8, 0.7, 0.6)  # times the size, until captions fit


def _words(looked: Looked, caption: Caption) -> list[PlanWord]:
    return [looked.plan.words[n] for line in caption.lines for n in line]


def _said(looked: Looked, caption: Caption) -> str:
    return " ".join(word.written for word in _words(looked, caption))


def _where(looked: Looked, caption: Caption) -> Where:
    words = _words(looked, caption)
    refs = [WordRef(origin=word.origin, word=word.id) for word in words if word.origin and word.layer is None]
    where = looked.frames(caption.first, caption.last)
    return with_changes(where, words=(refs[0], refs[-1])) if refs else where


def _about(looked: Looked, caption: Caption) -> str:
    first = _words(looked, caption)[0]
    return f"{first.origin or first.layer}:{first.id}"


@check("fast", "Captions too fast to read", "captions")
def too_fast(looked: Looked) -> Iterator[Found]:
    """By the reading speed of their layout."""
    regrouped = partial(_regrouped, looked)
    for n, caption in enumerate(looked.plan.captions):
        if caption.fast:
            fixes = (*_longer(looked, n), *regrouped(caption))
            says = f"“{_said(looked, caption)}” is there for {(caption.last - caption.first) / looked.fps:.1f} s: too fast to read."
            yield Found(_about(looked, caption), says, _where(looked, caption), fixes)


def _longer(looked: Looked, n: int) -> Iterator[Fix]:
    """Let it stay, where there is time before the next one."""
    caption, all_ = looked.plan.captions[n], looked.plan.captions
    letters = len(_said(looked, caption))
    needed = int(letters / looked.target.layout.fastest * looked.fps + 1) - (caption.last - caption.first)
    limit = all_[n + 1].first if n + 1 < len(all_) else looked.last_frame
    last = _words(looked, caption)[-1]
    if needed <= limit - caption.last and last.layer is None:
        ref = WordRef(origin=last.origin, word=last.id)
        try:
            span = looked.scene.places.over(ref, ref)
        except EditError:
            return
        name = next(iter(fresh_names(looked.sheet, "l")))
        layer = Layer(id=name, span=span, content=Wording(longer=min(last.longer + needed, 250)))
        yield Fix(label="Let it stay longer", edits=(PutLayer(layer=layer),))


def _regrouped(looked: Looked, caption: Caption) -> Iterator[Fix]:
    """Two lines, where they were grouped into few words."""
    layout = looked.target.layout
    if layout != USUAL and layout.characters * layout.lines < USUAL.characters * USUAL.lines:
        yield Fix(label="Captions of two lines", edits=(SetLayout(layout=USUAL),))


@check("short", "Captions that flash by", "captions")
def too_short(looked: Looked) -> Iterator[Found]:
    """Unless their layout is one of single words."""
    least = min(SHORTEST_CAPTION, looked.target.layout.shortest)
    if looked.target.layout.words == 1:
        return
    for n, caption in enumerate(looked.plan.captions):
        lasts = (caption.last - caption.first) / looked.fps
        if lasts < least - 1 / looked.fps:
            joined = caption if n else looked.plan.captions[1] if len(looked.plan.captions) > 1 else None
            first = _words(looked, joined)[0] if joined else None
            fixes: tuple[Fix, ...] = ()
            if first is not None and first.layer is None:
                ref = WordRef(origin=first.origin, word=first.id)
                with_what = "the one before" if n else "the next one"
                fixes = (Fix(label=f"Join it with {with_what}", edits=(BreakCaption(word=ref, how="join"),)),)
            says = f"“{_said(looked, caption)}” is there for {lasts:.1f} s only."
            yield Found(_about(looked, caption), says, _where(looked, caption), fixes)


@check("off_safe", "Captions off the safe area", "captions")
def off_safe(looked: Looked) -> Iterator[Found]:
    """What an outlet covers with its own controls nobody reads."""
    boxes = looked.scene.caption_boxes
    out = [n for n, box in enumerate(boxes) if looked.is_off_safe(box)]
    if not out:
        return
    first = looked.plan.captions[out[0]]
    says = f"{_count(len(out))} over the edge of what {looked.target.outlet.name} leaves free, first “{_said(looked, first)}”."
    yield Found("", says, _where(looked, first), tuple(_smaller(looked)))


def _smaller(looked: Looked) -> Iterator[Fix]:
    style = looked.target.captions
    assert style is not None
    for times in _SMALLER:
        size = style.size * times
        made = with_changes(style, size=size, smallest=min(style.smallest, size))
        edit = SetCaptions(captions=looked.sheet.captions, style=made)
        after = looked.with_edits(edit)
        if not any(after.is_off_safe(box) for box in after.scene.caption_boxes):
            yield Fix(label=f"Make them {1 - times:.0%} smaller", edits=(edit,))
            return


def _count(number: int) -> str:
    return "A caption is" if number == 1 else f"{number} captions are"


@check("over_face", "Captions over a face", "captions")
def over_face(looked: Looked) -> Iterator[Found]:
    """All of them stand at one height, so all are moved together."""
    over = [each for each in looked.plan.captions if each.over_face]
    style = looked.target.captions
    if not over or style is None:
        return
    height = looked.scene.clear_height
    fixes: tuple[Fix, ...] = ()
    if height is not None:
        made = with_changes(style, height=height)
        fixes = (
            Fix(label="Move all clear of faces", edits=(SetCaptions(captions=looked.sheet.captions, style=made),)),
        )
    says = f"{_count(len(over))} over a face, first “{_said(looked, over[0])}”."
    yield Found("", says, _where(looked, over[0]), fixes)


@check("over_screen", "Captions over what is on screen", "captions")
def over_screen(looked: Looked) -> Iterator[Found]:
    """A title or a sticker may be in the way of captions where a person put it."""
    for laid in looked.scene.laid:
        box = looked.scene.boxes.get(laid.layer)
        beside = zip(looked.plan.captions, looked.scene.caption_boxes, strict=False)
        there = (each for each in beside if each[0].first < laid.last and each[0].last > laid.first)
        met = next((caption for caption, own in there if box and own.meets(box)), None)
        if met is None:
            continue
        edit = elsewhere(looked, laid)
        fixes = (Fix(label="Put it clear of them", edits=(edit,)),) if edit else ()
        says = f"“{_said(looked, met)}” and “{laid.content.label()}” are over one another."
        yield Found(laid.layer, says, with_changes(_where(looked, met), layer=laid.layer), fixes)


@check("letters", "Letters that no font has", "captions")
def letters(looked: Looked) -> Iterator[Found]:
    """They would be left out of the picture."""
    missing = unwritten_in(looked.plan, looked.scene, looked.target)
    if missing:
        says = f"No font here has {missing}: left out of the picture. Word it otherwise, or choose another font."
        yield Found(missing[:20], says, _first_with(looked, missing), tuple(_other_font(looked)))


def _first_with(looked: Looked, missing: str) -> Where | None:
    for caption in looked.plan.captions:
        if set(_said(looked, caption)) & set(missing):
            return _where(looked, caption)
    return None


def _other_font(looked: Looked) -> Iterator[Fix]:
    """A font that has them all, if there is one."""
    style = looked.target.captions
    if style is None:
        return
    texts = [style.written(word.written) for word in looked.plan.words]
    for key, font in looked.kit.fonts.items():
        if key != style.font and not unwritten(texts, font.file, FALLBACK.file):
            edit = SetCaptions(captions=looked.sheet.captions, style=with_changes(style, font=key))
            if not unwritten_in((after := looked.with_edits(edit)).plan, after.scene, after.target):
                yield Fix(label=f"Captions in {font.name}", edits=(edit,))
                return


@check("uncaptioned", "Nothing written where somebody speaks", "captions", "look")
def uncaptioned(looked: Looked) -> Iterator[Found]:
    """A plain edition is plain on purpose; words that are hidden in it may not be."""
    if looked.edition.dressing == "plain" or not looked.heard:
        return
    if looked.target.captions is None:
        usual = next(iter(STYLES))
        fix = Fix(label=f"Captions: {STYLES[usual].name}", edits=(SetCaptions(captions=usual),))
        yield Found("all", "This clip has no captions: many watch with the sound off.", None, (fix,))
        return
    for laid in looked.scene.of(Wording):
        if laid.content.hidden:
            fix = Fix(label="Write it", edits=(RemoveLayer(layer=laid.layer),))
            said = " ".join(each.word.text for each in looked.heard if laid.reach.begin <= each.place <= laid.reach.end)
            if said:
                yield Found(laid.layer, f"“{said}” is said and not written.", looked.at(laid), (fix,))
