"""Where the source picture stands in the output picture."""

from pydantic import BaseModel, ConfigDict

FILL_DIVISOR = 10  # the fill is blurred at a tenth of the size: it looks the same and costs little
FILL_SIGMA = 3.0  # pixels, at that size


class Framing(BaseModel):
    """All in pixels. The source, fitted whole, covers ``fit_*`` of the output; behind it lies the
    source cropped (``crop_*``, in source pixels) to the output's shape, enlarged and blurred."""

    model_config = ConfigDict(frozen=True)

    fit_x: int
    fit_y: int
    fit_width: int
    fit_height: int
    crop_x: int
    crop_y: int
    crop_width: int
    crop_height: int
    fill_width: int
    fill_height: int
    fill_sigma: float = FILL_SIGMA


def _even(value: float) -> int:
    return max(2, int(value / 2 + 0.5) * 2)


def fit_over_blur(source: tuple[int, int], output: tuple[int, int]) -> Framing:
    """Fit ``source`` (width, height as shown, square pixels) into ``output``, over its own blurred enlargement."""
    (sw, sh), (ow, oh) = source, output
    scale = min(ow / sw, oh / sh)
    fw, fh = min(_even(sw * scale), ow), min(_even(sh * scale), oh)
    cover = max(ow / sw, oh / sh)
    cw, ch = min(_even(ow / cover), sw - sw % 2), min(_even(oh / cover), sh - sh % 2)
    return Framing(
        fit_x=(ow - fw) // 4 * 2,
        fit_y=(oh - fh) // 4 * 2,
        fit_width=fw,
        fit_height=fh,
        crop_x=(sw - cw) // 2,
        crop_y=(sh - ch) // 2,
        crop_width=max(cw, 2),
        crop_height=max(ch, 2),
        fill_width=_even(ow / FILL_DIVISOR),
        fill_height=_even(oh / FILL_DIVISOR),
    )
