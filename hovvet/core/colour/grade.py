"""Colour settings, and what they do to a colour."""

from typing import Annotated

import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from hovvet.core.value import APART, PERCENT, SLIDES, Value, with_changes

Colours = NDArray[np.float64]  # shape (..., 3), R'G'B' from 0 to 1
LUMA = np.array([0.2126, 0.7152, 0.0722])  # ITU-R BT.709
_GAMMA = 2.4  # of the screen (ITU-R BT.1886): where light adds up
_MOST_COLOUR = 3.0  # times by which the colour of what is dark grows at most when it gets lighter
_PIVOT = 0.42  # what contrast leaves as it is: middle grey
_REACH = 0.95  # of shadows and highlights: from 1 on a grey could get darker than a darker one
_WARMEST, _PINKEST = 0.32, 0.2  # parts by which the channels are set apart at most
_Share = Field(ge=-1, le=1, json_schema_extra=SLIDES)
VIGNETTE_FROM, VIGNETTE_MOST = (
    0.45,
    0.7,
)  # where a vignette begins on the way to a corner, and how dark that gets at most
SHARPENING_REACH, SHARPENING_MOST = (
    1 / 600,
    1.5,
)  # how far an edge reaches, in parts of the picture's height; how often it is added at most


class Grade(Value):
    """``exposure`` in stops; all others from -1 to 1, 0 changing nothing. ``temperature`` above 0 is warmer, ``tint`` above
    0 pinker; ``vibrance`` gives colour to what has little of it; ``vignette`` (0 to 1) darkens the corners and ``sharpen``
    (0 to 1) makes edges stand out. ``table`` names one that the workspace brought in, which comes last, at a ``strength``."""

    exposure: Annotated[float, Field(ge=-2, le=2, title="Exposure (stops)", json_schema_extra=SLIDES)] = 0.0
    contrast: Annotated[float, _Share, Field(title="Contrast")] = 0.0
    """0 changes nothing."""
    temperature: Annotated[float, _Share, Field(title="Temperature")] = 0.0
    tint: Annotated[float, _Share, Field(title="Tint (green to magenta)")] = 0.0
    saturation: Annotated[float, _Share, Field(title="Saturation")] = 0.0
    """0 changes nothing, -1 is grey."""
    vibrance: Annotated[float, _Share, Field(title="Vibrance")] = 0.0
    """Colour for what has little of it."""
    shadows: Annotated[float, _Share, Field(title="Shadows")] = 0.0
    """Above 0 the dark parts are lighter."""
    highlights: Annotated[float, _Share, Field(title="Highlights")] = 0.0
    """Above 0 the light parts are lighter."""
    sharpen: Annotated[float, Field(ge=0, le=1, title="Sharpen", json_schema_extra=SLIDES)] = 0.0
    """How much edges stand out."""
    vignette: Annotated[float, Field(ge=0, le=1, title="Vignette", json_schema_extra=SLIDES)] = 0.0
    table: Annotated[str, Field(max_length=64, pattern=r"^[\w.-]*$", title="LUT", json_schema_extra=APART)] = ""
    strength: Annotated[float, Field(ge=0, le=1, title="LUT strength (%)", json_schema_extra=APART | PERCENT)] = 1.0

    @property
    def changes_colours(self) -> bool:
        """Whether it does more than darken the corners and sharpen."""
        apart = ("vignette", "sharpen", "table", "strength")
        return self.has_table or any(value for name, value in self if name in Grade.model_fields and name not in apart)

    @property
    def colours(self) -> "Grade":
        """What of it changes colours, alone."""
        return with_changes(self, vignette=0.0, sharpen=0.0)

    @property
    def has_table(self) -> bool:
        """Whether a table of the workspace's has a part in it."""
        return bool(self.table) and self.strength > 0


def graded(colours: Colours, grade: Grade) -> Colours:
    """The colours as a grade has them, each by itself, without its table: exposure and white balance in light, the rest as
    the eye has it."""
    light = np.maximum(colours, 0) ** _GAMMA * 2.0**grade.exposure
    warm, pink = grade.temperature * _WARMEST, grade.tint * _PINKEST
    balance = np.array([1 + warm + pink / 2, 1 - pink, 1 - warm + pink / 2])
    balance /= balance @ LUMA  # the light of a grey stays
    made = (light * balance) ** (1 / _GAMMA)
    made = _toned(made, grade)
    luma = (made @ LUMA)[..., None]
    spread = made.max(axis=-1, keepdims=True) - made.min(axis=-1, keepdims=True)
    amount = 1 + grade.saturation + grade.vibrance * np.clip(1 - spread, 0, 1) ** 2
    final: Colours = np.clip(luma + (made - luma) * np.maximum(amount, 0), 0, 1)
    return final


def _toned(colours: Colours, grade: Grade) -> Colours:
    """Contrast, shadows and highlights, by the luma alone: hues stay."""
    luma = (colours @ LUMA)[..., None]
    tone = np.clip(luma, 0, 1)
    dark, bright = (1 - tone) ** 2 * tone * _REACH, tone**2 * (1 - tone) * _REACH
    wanted = luma + grade.shadows * dark + grade.highlights * bright
    slope = 1 + grade.contrast * (0.9 if grade.contrast > 0 else 0.7)
    steep = _PIVOT + (wanted - _PIVOT) * slope
    # Bent so that black and white stay what they are.
    low, high = np.clip(wanted, 0, 1) / _PIVOT, (1 - np.clip(wanted, 0, 1)) / (1 - _PIVOT)
    bent = np.where(wanted < _PIVOT, _PIVOT * low**slope, 1 - (1 - _PIVOT) * high**slope)
    final = bent if grade.contrast > 0 else steep
    # What little colour there is in the dark grows with it, but not to a colour of its own: the rest is grey.
    times = np.minimum(final / np.maximum(luma, 1e-4), _MOST_COLOUR)
    made: Colours = colours * times + (final - luma * times)
    return made


# Looks of our own, by name.
LOOKS: dict[str, Grade] = {
    "As filmed": Grade(),
    "Clear": Grade(exposure=0.15, contrast=0.2, vibrance=0.2, shadows=0.15),
    "Warm evening": Grade(exposure=0.1, temperature=0.45, contrast=0.1, vibrance=0.15, highlights=-0.15),
    "Cool morning": Grade(exposure=0.1, temperature=-0.35, tint=0.05, contrast=0.1, shadows=0.1),
    "Workshop": Grade(temperature=0.2, contrast=0.35, saturation=-0.15, shadows=-0.15, vignette=0.35),
    "Soft": Grade(exposure=0.2, contrast=-0.35, saturation=-0.1, highlights=-0.2, shadows=0.25),
    "Punchy": Grade(contrast=0.45, saturation=0.2, vibrance=0.3, vignette=0.15),
    "Faded": Grade(contrast=-0.45, saturation=-0.35, temperature=0.1, shadows=0.5),
    "Night lamp": Grade(exposure=-0.3, temperature=0.55, contrast=0.25, vignette=0.6),
    "Grey day": Grade(temperature=-0.15, saturation=-0.3, contrast=-0.1, exposure=0.15),
    "Print": Grade(saturation=-1.0, contrast=0.25),
    "Old paper": Grade(saturation=-0.8, temperature=0.4, contrast=-0.15, vignette=0.3),
}
