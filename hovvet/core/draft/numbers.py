"""Numbers as they are said, in English."""

from functools import cache

import inflect

_DIGITS = ("zero", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine")
_HUNDREDS = range(1100, 2100)  # what is read as a year, where it may be one
_TOLD_IN_DIGITS = 16  # of a number that long nobody hears how large it is


@cache
def _engine() -> inflect.engine:
    return inflect.engine()


def _words(number: int) -> str:
    return str(_engine().number_to_words(number)).replace(",", "")


def whole(digits: str) -> str:
    """A whole number, written in digits with or without commas: "1,250" is "one thousand two hundred and fifty"."""
    plain = digits.replace(",", "").replace(" ", "").replace("\u202f", "").replace("\u00a0", "")
    if len(plain) > _TOLD_IN_DIGITS or (len(plain) > 1 and plain.startswith("0")):
        return each_digit(plain)
    return _words(int(plain))


def each_digit(digits: str) -> str:
    """Digit by digit: "007" is "zero zero seven"."""
    return " ".join(_DIGITS[int(each)] for each in digits if each.isdigit())


def decimal(digits: str, half: bool = False) -> str:
    """A number with or without a decimal point: "3.14" is "three point one four"; ``half``: "3.5" is "three and a half"."""
    front, point, behind = digits.partition(".")
    if not point or not behind:
        return whole(front)
    if half and behind.rstrip("0") == "5":
        return "half" if front in ("", "0") else f"{whole(front)} and a half"
    return f"{whole(front or '0')} point {each_digit(behind)}"


def ordinal(number: int) -> str:
    """The third, the twenty-first."""
    return str(_engine().number_to_words(_engine().ordinal(number))).replace(",", "")


def year(number: int) -> str:
    """1984 is "nineteen eighty-four", 1905 "nineteen oh five", 2004 "two thousand and four"."""
    front, behind = divmod(number, 100)
    if number not in _HUNDREDS or (front % 10 == 0 and behind < 10):
        return _words(number)
    if not behind:
        return f"{_words(front)} hundred"
    return f"{_words(front)} {'oh ' if behind < 10 else ''}{_words(behind)}"


def decade(number: int) -> str:
    """1990 is "nineteen nineties", 90 "nineties", 2000 "two thousands"."""
    said = year(number) if number >= 1000 else _words(number)
    return said[:-1] + "ies" if said.endswith("y") else said + "s"


def fraction(over: int, under: int) -> str:
    """1/2 is "one half", 3/4 "three quarters", 2/5 "two fifths"."""
    named = {2: "half", 4: "quarter"}.get(under) or ordinal(under)
    return f"{_words(over)} {named if over == 1 else 'halves' if under == 2 else named + 's'}"


def roman(letters: str) -> int:
    """The number that is written in Roman numerals; 0 for what is none."""
    values = {"I": 1, "V": 5, "X": 10, "L": 50, "C": 100, "D": 500, "M": 1000}
    numbers = [values.get(each, 0) for each in letters]
    if not numbers or 0 in numbers:
        return 0
    return sum(-a if a < b else a for a, b in zip(numbers, [*numbers[1:], 0], strict=True))
