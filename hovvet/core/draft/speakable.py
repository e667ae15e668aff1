"""What is written, as it is said: numbers, dates, times, units, money, abbreviations, links. For English.

A rule is a pattern and what is said for it; they are tried in order, each on what those before it have left.
"""

import re
from collections.abc import Callable, Iterator
from typing import NamedTuple

from hovvet.core.draft.numbers import decade, decimal, each_digit, fraction, ordinal, roman, whole, year
from hovvet.core.draft.shorthand import (
    BEFORE_NUMBER,
    FRACTIONS,
    LARGE,
    MONEY,
    MONTH,
    MONTHS,
    MONTHS_PATTERN,
    SHORT,
    SHORT_DAY,
    SIGNS,
    UNITS,
)

_NUMBER = r"\d{1,3}(?:[,\u202f\u00a0]\d{3})+(?:\.\d+)?|\d*\.\d+|\d+"
_UNIT = "|".join(sorted(map(re.escape, UNITS), key=len, reverse=True))
_TO = r"\s?[–—-]\s?"


class _Rule(NamedTuple):
    pattern: re.Pattern[str]
    says: Callable[[re.Match[str]], str]


def _plural(number: str, named: tuple[str, str]) -> str:
    return named[0] if number.replace(",", "") in ("1", "1.0", "½") or re.fullmatch(r"0?\.5", number) else named[1]


def _measure(number: str, unit: str, adjective: bool = False) -> str:
    named = UNITS[unit]
    said = decimal(_plain(number), half=True)
    if said == "half":
        return f"half a {named[0]}"
    return f"{said} {named[0] if adjective else _plural(number, named)}"


def _plain(number: str) -> str:
    return re.sub(r"[,\u202f\u00a0 ]", "", number)


def _money(sign: str, number: str, large: str) -> str:
    one, more, cent, cents = MONEY[sign]
    plain = _plain(number)
    if large:
        return f"{decimal(plain)} {LARGE[large]} {more}"
    front, _, behind = plain.partition(".")
    if behind and len(behind) == 2:
        parts = [f"{whole(front)} {one if front == '1' else more}"] if int(front or 0) else []
        if int(behind):
            parts.append(f"{whole(str(int(behind)))} {cent if int(behind) == 1 else cents}")
        return " and ".join(parts) or f"zero {more}"
    return f"{decimal(plain, half=True)} {one if plain == '1' else more}"


def _date(day: str, month: str, of_year: str | None) -> str:
    name = MONTH[month.lower().rstrip(".")]
    return f"the {ordinal(int(day))} of {name}" + (f" {year(int(of_year))}" if of_year else "")


def _time(hours: str, minutes: str, half: str | None) -> str:
    hour, minute = int(hours), int(minutes or 0)
    half = (half or "").lower().replace(".", "").strip()
    said = whole(str(hour)) if hour else "midnight" if not minute else "zero"
    if minute:
        said += f" oh {whole(str(minute))}" if minute < 10 else f" {whole(str(minute))}"
    elif not half and hour:
        said += " o'clock" if hour <= 12 else " hundred"
    return said + (f" {half[0]} m" if half else "")


def _duration(match: re.Match[str]) -> str:
    parts = [int(each) for each in match[0].split(":")]
    named = list(zip(parts, ("hour", "minute", "second"), strict=True))
    return " ".join(f"{whole(str(n))} {name}{'s' if n != 1 else ''}" for n, name in named if n)


def _link(match: re.Match[str]) -> str:
    return re.sub(r"\s+", " ", match["host"].removeprefix("www.").replace(".", " dot ").replace("-", " "))


def _mail(match: re.Match[str]) -> str:
    return match[0].replace("@", " at ").replace(".", " dot ").replace("-", " ").replace("_", " ")


def _iso(match: re.Match[str]) -> str:
    of_year, month, day = (int(each) for each in match.groups())
    return (
        f"the {ordinal(day)} of {MONTHS[month - 1]} {year(of_year)}"
        if 1 <= month <= 12 and 1 <= day <= 31
        else match[0]
    )


def _slashed(match: re.Match[str]) -> str:
    """A date where it is clear which number is the day; else number by number."""
    first, second, of_year = int(match[1]), int(match[2]), int(match[3])
    of_year += 2000 if of_year < 100 else 0
    if second <= 12 < first <= 31:
        return f"the {ordinal(first)} of {MONTHS[second - 1]} {year(of_year)}"
    if first <= 12 < second <= 31 or first == second <= 12:
        return f"the {ordinal(second)} of {MONTHS[first - 1]} {year(of_year)}"
    return f"{whole(str(first))} {whole(str(second))} {year(of_year)}"


def _mixed(match: re.Match[str]) -> str:
    over, under = FRACTIONS[match[2]]
    front = match[1]
    part = {(1, 2): "a half", (1, 4): "a quarter"}.get((over, under)) or fraction(over, under)
    return f"{whole(front)} and {part}" if front else part


def _range(match: re.Match[str]) -> str:
    return f"{decimal(_plain(match[1]))} to {decimal(_plain(match[2]))}"


def _short(match: re.Match[str]) -> str:
    said = SHORT[match[0]]
    ends = match[0].endswith(".") and match.end() == len(match.string.rstrip())
    return said + ("." if ends else "")


def _years(match: re.Match[str]) -> str:
    first, second = match[1], match[2]
    return f"{year(int(first))} to {year(int(first[: 4 - len(second)] + second))}"


def _score(match: re.Match[str]) -> str:
    return f"{whole(match[1])} to {whole(match[2])}"


def _rules() -> Iterator[tuple[str, Callable[[re.Match[str]], str]]]:
    shorts = "|".join(sorted(map(re.escape, SHORT), key=len, reverse=True))
    before = "|".join(sorted(map(re.escape, BEFORE_NUMBER), key=len, reverse=True))
    money, large = "|".join(map(re.escape, MONEY)), "|".join(sorted(LARGE, key=len, reverse=True))
    yield r"\[(?:\d+|citation needed|note \d+)\]", lambda match: ""
    yield r"!?\[([^\]]+)\]\((?:[^)]+)\)", lambda match: match[1]
    yield r"[\w.+-]+@[\w-]+(?:\.[\w-]+)+", _mail
    yield r"(?:https?://)(?P<host>[\w.-]*\w)(?::\d+)?(?:[/?#][^\s<>()\"]*[^\s<>()\".,;:!?])?/?", _link
    yield r"\b(?P<host>www\.[\w.-]*\w)(?:/[^\s<>()\"]*[^\s<>()\".,;:!?])?/?", _link
    yield (
        r"\b(?P<host>[a-zA-Z][\w-]*\.(?:com|org|net|io|example|edu|gov|info|eu|co\.uk))\b(?:/[^\s<>()\"]*[^\s<>()\".,;:!?])?/?",
        _link,
    )
    yield r"[*_`]{1,3}([^*_`\n]+)[*_`]{1,3}", lambda match: match[1]
    yield r"#([A-Za-z]\w+)", lambda match: f"hashtag {match[1]}"
    yield r"(?<!\w)@(\w+)", lambda match: f"at {match[1].replace('_', ' ')}"
    yield r"(?i)\b24/7\b", lambda match: "twenty-four seven"
    # Dates and times.
    yield r"\b(\d{4})-(\d{2})-(\d{2})\b", _iso
    yield r"\b(\d{1,2})[/.](\d{1,2})[/.](\d{4}|\d{2})\b(?![.\d])", _slashed
    yield (
        rf"\b(?:the )?(\d{{1,2}})(?:st|nd|rd|th)?(?: of)? ({MONTHS_PATTERN})\b\.?(?:,? (\d{{4}})\b)?",
        lambda match: _date(match[1], match[2], match[3]),
    )
    yield (
        rf"\b({MONTHS_PATTERN})\b\.? (?:the )?(\d{{1,2}})(?:st|nd|rd|th)?(?![\d:.,%])(?:,? (\d{{4}})\b)?",
        lambda match: _date(match[2], match[1], match[3]),
    )
    yield rf"\b({MONTHS_PATTERN})\b\.? (\d{{1,2}}),? (\d{{4}})\b", lambda match: _date(match[2], match[1], match[3])
    yield (
        r"\b(Mon|Tues?|Weds?|Thurs?|Fri|Sat|Sun)\b\.?(?=,? (?:the|\d|at|from|to|and)\b|[–-])",
        lambda match: SHORT_DAY[match[1].lower()],
    )
    yield (
        r"\b(Mon|Tues?|Weds?|Thurs?|Fri|Sat|Sun)\b",
        lambda match: (
            SHORT_DAY[match[1].lower()] if match.string[: match.start()].endswith(("day–", "day-")) else match[0]
        ),
    )
    yield r"(?<=day)[–-](?=[A-Z]\w+day\b)", lambda match: " to "
    yield r"(?i)(?<=m)\s?[–-]\s?(?=\d{1,2}(?:[:.]\d\d)?\s?[ap]\.?m)", lambda match: " to "
    yield r"\b(\d{1,2}):(\d{2}):(\d{2})\b", _duration
    yield (
        r"(?i)\b([01]?\d|2[0-3])[:.]([0-5]\d)\s?(a\.?m\.?|p\.?m\.?)(?![a-z])",
        lambda match: _time(match[1], match[2], match[3]),
    )
    yield r"\b([01]?\d|2[0-3]):([0-5]\d)\b", lambda match: _time(match[1], match[2], None)
    yield r"(?i)\b(\d{1,2})\s?(a\.?m\.?|p\.?m\.?)(?![a-z])", lambda match: _time(match[1], "", match[2])
    yield (
        r"(?i)\b(\d{1,2})(?:st|nd|rd|th)[ -]centur(y|ies)\b",
        lambda match: f"{ordinal(int(match[1]))} centur{match[2]}",
    )
    yield r"(?<!\w)['’]?(\d{2}|\d{3}0)['’]?s\b", lambda match: decade(int(match[1]))
    yield rf"\b(1[1-9]\d\d|20\d\d){_TO}(1[1-9]\d\d|20\d\d|\d\d)\b(?!,)", _years
    yield r"\b(\d{1,3})(?:st|nd|rd|th)\b", lambda match: ordinal(int(match[1]))
    # Money.
    yield rf"({money})\s?({_NUMBER})(?:\s?({large})\b)?", lambda match: _money(match[1], match[2], match[3] or "")
    yield rf"\b({_NUMBER})\s?(?:({large}) )?({money})(?!\w)", lambda match: _money(match[3], match[1], match[2] or "")
    # Numbers with what they count.
    yield rf"(?<![\w.])({_NUMBER}) K\b", lambda match: f"{decimal(_plain(match[1]))} kelvin"
    yield rf"(?<![\w.])({_NUMBER})\s?[x×]\s?(?=\d)", lambda match: f"{decimal(_plain(match[1]))} by "
    yield (
        rf"(?<![\w.])({_NUMBER}){_TO}({_NUMBER})\s?({_UNIT})(?![\w²³])",
        lambda match: f"{decimal(_plain(match[1]), True)} to {_measure(match[2], match[3])}",
    )
    yield rf"(?<![\w.])[-−–]({_NUMBER})\s?({_UNIT})(?![\w²³])", lambda match: f"minus {_measure(match[1], match[2])}"
    yield rf"(?<![\w.])({_NUMBER})-({_UNIT})(?![\w²³])", lambda match: _measure(match[1], match[2], True)
    yield rf"(?<![\w.])({_NUMBER})\s?({_UNIT})(?![\w²³])", lambda match: _measure(match[1], match[2])
    yield (
        rf"(?<![\w.])({_NUMBER})(?:(k|K|M|B)|\s?(mn|bn|tn))\b\+?",
        lambda match: f"{decimal(_plain(match[1]))} {LARGE[match[2] or match[3]]}",
    )
    yield rf"(?<![\w.])({_NUMBER})\s?[x×](?!\w)", lambda match: f"{decimal(_plain(match[1]))} times"
    yield rf"(?i)(?<!\w)({before})\s?(?=\d)", lambda match: f"{BEFORE_NUMBER[match[1].lower()]} "
    yield (
        r"\b(Chapter|Part|Book|Act|Volume|Section|Phase|Level|Type) ([IVXLC]+)\b",
        lambda match: f"{match[1]} {whole(str(roman(match[2])))}",
    )
    yield r"\b([1-9])/(2|3|4|5|6|8|10)\b", lambda match: fraction(int(match[1]), int(match[2]))
    yield rf"(\d*)\s?([{''.join(FRACTIONS)}])", _mixed
    yield (
        r"(?<!\w)\+?\d[\d ]*\d(?: \d{2,}){2,}\b",
        lambda match: (
            ("plus " if match[0][0] == "+" else "")
            + ", ".join(each_digit(part) for part in match[0].strip("+").split())
        ),
    )
    yield rf"\b({_NUMBER}){_TO}({_NUMBER})\b(?![-–])", _range
    yield (
        r"\b(1[1-9]\d\d|20\d\d)\b(?![,.]\d)(?!(?<=1[1-8]..) (?:\w+s|people|children|men|women)\b)",
        lambda match: year(int(match[1])),
    )
    yield r"\b(\d+):(\d+)\b", _score
    yield rf"(?<![\w.])[-−]({_NUMBER})", lambda match: f"minus {decimal(_plain(match[1]))}"
    yield (
        rf"(?<=\d)%|(?<![\w.])({_NUMBER})\+(?!\w)",
        lambda match: f"more than {decimal(_plain(match[1]))}" if match[1] else " percent",
    )
    yield rf"(?<![\w.])({_NUMBER})(?![\w])", lambda match: decimal(_plain(match[1]))
    # Words that are written short.
    yield rf"(?<![\w.])(?:{shorts})(?!\w)", _short
    yield r"\bSt\.? (?=[A-Z])", lambda match: "Saint "
    yield (
        rf"(?:(?<=[\w\s])|^)\s*([{re.escape(''.join(SIGNS))}])\s*(?=[\w\s]|$)",
        lambda match: f" {SIGNS[match[1]]} " if SIGNS[match[1]] else " ",
    )
    yield r",?\s+[–—-]{1,2}\s+|,?\s*—\s*", lambda match: ", "
    yield r"\s?/\s?(?=\w)", lambda match: " or "


_RULES = tuple(_Rule(re.compile(pattern), says) for pattern, says in _rules())
_UNSAID = re.compile("[\U0001f000-\U0001faff\u2600-\u27bf\ufe0f\u200d*_`|#\\\\~^]")
_SPACES = re.compile(r"\s+")
_BEFORE_STOP = re.compile(r"\s+([,.;:!?])(?=\s|$)")


def said(text: str) -> str:
    """A sentence as it is said: "It is 3.5 km." is "It is three and a half kilometres."."""
    for rule in _RULES:
        text = rule.pattern.sub(rule.says, text)
    text = _SPACES.sub(" ", _UNSAID.sub(" ", text)).strip()
    return _BEFORE_STOP.sub(r"\1", text)
