"""The words that carry a phrase: numbers, names, and what is said seldom."""

from collections import Counter
from collections.abc import Sequence

from hovvet.core.captions.phrases import break_phrases
from hovvet.core.words.timed import Timed
from hovvet.core.words.vocabulary import bare, ends_sentence, is_filler_sound

# How much each sign that a word carries something counts; a word needs ENOUGH of them.
NUMBER, NAME, LONG, SELDOM = 3.0, 2.5, 1.0, 1.0
ENOUGH = 2.0
_LONG_LETTERS = 7
_SELDOM_SHARE = 1 / 150  # of all words: said no more often than this

# Words that carry nothing by themselves, however long they are.
PLAIN = frozenset(
    (
        "a about above after again against all almost along already also although always am among an and another any "
        "anybody anyone anything are around as at away back be because been before behind being below between both but by "
        "came can cannot come could did different do does doing done down during each either else enough even ever every "
        "everybody everyone everything few first for from further gave get getting give go goes going gone got had has have "
        "having he her here hers herself him himself his how however i if in instead into is it its itself just keep kept "
        "know later least less let like little look looked looking lot made make making many may maybe me might mine more "
        "most much must my myself near nearby never next no nobody none nor not nothing now of off often on once one only "
        "onto or other others our ours out over own perhaps please probably put quite rather really right said same say "
        "saying see seem seen shall she should since so some somebody someone something sometimes somewhere still such "
        "sure take taken than that the their them themselves then there these they thing things think this those though "
        "thought through thus to together too took toward towards under until up upon us use used using usually very want "
        "wanted was way we well went were what whatever when where whether which while who whole whom whose why will with "
        "within without would yes yet you your yours yourself i'm i've i'll i'd you're you've it's that's there's they're "
        "we're we've don't doesn't didn't can't couldn't won't wouldn't isn't aren't wasn't weren't"
    ).split()
)
_NUMBERS = frozenset(
    (
        "two three four five six seven eight nine ten eleven twelve thirteen fourteen fifteen sixteen seventeen eighteen "
        "nineteen twenty thirty forty fifty sixty seventy eighty ninety hundred thousand million billion half quarter "
        "twice double triple percent"
    ).split()
)


def keywords(words: Sequence[Timed]) -> list[int]:
    """The positions of the words that carry their phrases, in order: no more than one of each, none of a phrase where
    nothing stands out."""
    counts = Counter(bare(word.text) for word in words)
    chosen = []
    for first, end in break_phrases(words):
        best = max(range(first, end), key=lambda n: _weight(words, n, counts))
        if _weight(words, best, counts) >= ENOUGH:
            chosen.append(best)
    return chosen


def _weight(words: Sequence[Timed], n: int, counts: Counter[str]) -> float:
    """How much a word carries."""
    text, word = words[n].text, bare(words[n].text)
    if word in PLAIN or not word or is_filler_sound(text):
        return 0.0
    weight = 0.0
    if word in _NUMBERS or any(letter.isdigit() for letter in word):
        weight += NUMBER
    begins = n == 0 or ends_sentence(words[n - 1].text)
    if text.lstrip("\"'“‘(")[:1].isupper() and not begins:
        weight += NAME
    if len(word) >= _LONG_LETTERS:
        weight += LONG + min(len(word) - _LONG_LETTERS, 5) / 20
    if counts[word] <= max(1, len(words) * _SELDOM_SHARE):
        weight += SELDOM
    return weight
