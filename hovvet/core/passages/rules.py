"""Signs of what a sentence does, in tables: each a list of patterns, matched in its text in lower case.

``BEGINS`` patterns count where they stand at the beginning of a sentence, ``HOLDS`` patterns anywhere in it. They are for
English.
"""

import re

_NUMBER = (
    r"\b(?:\d[\d,.]*|two|three|four|five|six|seven|eight|nine|ten|eleven|twelve|thirteen|fifteen|twenty|thirty|forty|fifty|sixty|"
    r"seventy|eighty|ninety|hundred|thousand|million|half|twice)"
)
_UNIT = (
    r"(?:percent|per cent|years?|months?|weeks?|days?|hours?|minutes?|seconds?|times|people|met(?:re|er)s?|miles?|kilos?|"
    r"euros?|dollars?|pounds?|crowns?|cents?|pages?|things|children|cups)"
)
# What a sign may read like: " | " and the end of a line part one pattern from the next.
_TABLES: dict[str, str] = {
    # At the beginning of a sentence.
    "answers": r"""
        yes | no | yeah | right | okay | ok | well | sure | exactly | of course | not really | i do not know | thank you | thanks
        oh | ah | good | fine | true | lovely
    """,
    "goes on": r"""
        and | but | so | or | because | which | also | then | plus | otherwise | though
    """,
    "points back": r"""
        that is why | this is why | that means | this means | that one | this one | the other one | the same | like i said
        as i said | as we said | and that | so that | in that case | for that | that was | that is | it was | it is | they were
        they are
    """,
    "unresolved": r"""
        he | she | it | they | him | her | them | his | its | their | this | that | these | those | there
    """,
    "commands": r"""
        imagine | start | stop | never | always | look | listen | think | take | buy | ask | put | try | remember | forget | let
        do not | don't | keep | make sure | draw | walk | sleep | go
    """,
    "opens a subject": r"""
        so | now | okay | right | let us | let's | the next | another | one more | here is | what | why | how | who | when | where
        and then | do you | is it | have you | tell me
    """,
    # Anywhere in a sentence.
    "story": r"""
        i remember | i will never forget | one day | one night | one evening | one morning | once
        when i (?:was|bought|began|started|came|got|first|opened|left) | the first time
        in (?:my|our|the) (?:first|second|third|fourth) (?:year|winter|week|month|summer) | years ago
        last (?:year|night|winter|summer) | that (?:night|day|morning|evening)
        on the (?:first|second|third|fourth|fifth|tenth|same) (?:day|night|evening|morning) | there was (?:a|this|one) | i once
        we once | i have to tell you | (?:came|walked) in(?:to)? | (?:told|said to|asked|rang|called) (?:me|him|her|us) | i found
        my (?:aunt|uncle|mother|father|grandmother|grandfather|neighbour|brother|sister|son|daughter|wife|husband|boss|manager|teacher)\b
    """,
    "claim": r"""
        is not | are not | was not | never | always | nobody | everybody | nothing
        the (?:best|worst|biggest|hardest|first|most|only|real) | more than
        the (?:reason|truth|mistake|secret|rule|lesson|question|problem|trick|point|difference) (?:is|was|that)
        i (?:think|believe|decided|learned|realised|realized|never|always) | has nothing to do | belongs to | instead of
        the most [a-z]+ (?:thing|part|tool|mistake|lesson) | if you remember (?:one|only one) thing | what (?:i|we) learned
        what (?:frightened|surprised|changed) me | what (?:works|matters|counts) | that is the
    """,
    "contrast": r"""
        is not .{2,60}(?:\bit is\b|, it|\. it) | not because
        (?:do|did|does|is|are|was) not .{3,50}, (?:it|they|he|she|you|we|i)\b | not the .{2,40} but | but not | did not .{2,40} but
        instead | rather than | on the other (?:side|hand) | everybody .{2,40} (?:but|except) | not .{2,40} only | used to | i used to
        but (?:he|she|it|they|we|i|people|look|had)
    """,
    "emotion": r"""
        afraid | frighten | scared | terrified | cried | crying | tears | laugh | love | hate | proud | ashamed | angry | furious
        cross with | shock | surprise | embarrass | beautiful | wonderful | terrible | heartbreak | sorry | lonely | alone | died
        dead | kill | lost | happy | sad | cruel | kindest | regret | grateful | miss him | miss her
    """,
    "absolute": r"""
        never | always | nobody | everybody | nothing | everything | every | only | all | whole | single | ever | anybody | most
    """,
    "number": rf"{_NUMBER}\b[ -](?:\w+[ -]){{0,2}}?{_UNIT}\b",
    "housekeeping": r"""
        welcome to | welcome every | welcome back | good (?:evening|morning|afternoon) (?:every|and|ladies|all)
        thank you (?:all |so much |very much )?(?:for|everybody|to (?:every|all|our)) | thanks (?:for|to (?:our|every|all))
        please (?:keep|put|take|wait|stack|mind|come in|do not|turn|mute|raise|sign|find|fill|return|label)
        the (?:toilets?|fire exits?|break|lunch|coffee|tea|slides|handouts?|recording|link|kettle|wifi|password)(?: break)? (?:is|are|will)
        the next (?:talk|session|open night|episode|one|meeting|speaker) (?:is|are|will) | the agenda is
        sign up | survey | newsletter | mailing list | in the (?:notes|chat) | microphones? | mute
        can (?:you|everybody|everyone) (?:hear|see) (?:me|us|this) | we are recording | is being recorded
        leave (?:us|a) (?:a |few )?(?:stars?|review) | tell a friend | made possible by | brought to you | our sponsors? | sponsored
        discount | right back | short break | after the break | support (?:the|this) (?:show|podcast) | subscribe
        questions? (?:in|into) the chat | before (?:i forget|we (?:start|begin)) | see you (?:in|next) | all we have time
        out of time | (?:that is|that's) (?:all|it) (?:from|for) | good night | goodbye | take your (?:cups|things|seats|coats)
        your (?:card|badge|ticket)s?\b | (?:is|are) closed (?:for|on) | is open on | stays? open | there is a form | raffle
        parking | car park | housekeeping | a show of hands | the agenda | minutes of the last | has left a
        at the (?:desk|reception|front desk)
    """,
    "slide": r"""
        as you can see | you (?:can )?see (?:this|here|the|on|that|it|in)
        (?:on|in) (?:this|the (?:next|last|previous|left|right)) (?:slide|picture|chart|graph|column|figure)
        this (?:slide|chart|graph|figure|diagram|picture|photo|photograph|line|column|table|bar|curve|number)(?: here)? | next slide
        that column | up here | over here | down here | here on the (?:left|right) | on the (?:left|right) (?:you|is|are|here)
        if (?:you|we) look at (?:this|the) | i (?:will |am going to )?click | my screen | share (?:my|the) screen | where my hand
        this (?:window|button|menu|tab) | hard(?:ly)? (?:to )?see | let me (?:show|scroll|zoom|move|open)
        the (?:red|blue|green|grey) (?:line|bar|one)s?\b
    """,
    "half thought": r"""
        i mean,? i | you know,? when | where (?:was i|were we) | what was i | ^sorry | , sorry | how do i say | anyway | i forget
        let me (?:see|just|think) | i suppose | i do not know what | that is a long story | another time
        i will not (?:go into|repeat) | not go (?:into|through) | (?:come|get) (?:back )?to that
        (?:do|talk about) it (?:over|later) | to do with the other | you said something | never mind
        as i (?:was saying|said (?:before|earlier)) | bear with me | hold on | one (?:second|moment) | wait a
    """,
    "chat": r"""
        did you find (?:us|it) | how are you | nice to (?:be|see|meet|have) | what did you have for | (?:it|that) smells
        does (?:she|he) still | which (?:thing|one)\b | we were talking | my goodness | i would not know
        is there (?:any )?(?:more )?(?:tea|coffee) | the weather | the kettle | any other questions | shall i read | over to you
        pleased to have | is with (?:me|us) today | with (?:me|us) today
    """,
    "reaction": r"""
        ^wow | ^really | ^oh\b | ^my goodness | ^goodness | ^lovely | ^wonderful
        ^(?:that is|that's) (?:wonderful|amazing|true|beautiful|incredible|great|so good|remarkable) | ^incredible | ^amazing
        ^i (?:had|have) (?:not|never) thought | ^i never thought | ^i did not know that | ^is that so | ^no way | ^gosh
        ^nobody said anything | ^that gives me
    """,
    "dangling": r"""
        \b(?:and|but|or|because|so|the|a|an|of|to|with|for|that|which|when|if)$ | ,$
    """,
}
_AT_START = frozenset(("answers", "goes on", "points back", "unresolved", "commands", "opens a subject"))


def _pattern(name: str, table: str) -> re.Pattern[str]:
    parts = "|".join(part for line in table.split("\n") for part in line.strip().split(" | ") if part)
    return re.compile(rf"(?:{parts})\b" if name in _AT_START else rf"(?:{parts})")


SIGNS: dict[str, re.Pattern[str]] = {name: _pattern(name, table) for name, table in _TABLES.items()}
_QUESTION_WORDS = re.compile(
    r"(?:why|what|how|who|when|where|which|is it|is there|are there|do you|did you|does|have you|can you|would you|should|is a|is not)\b"
)

HOOKS = (
    "Why does everybody get this wrong?",
    "The biggest mistake I ever made was this.",
    "Nobody tells you what really happens.",
    "I have to tell you what happened to me that night.",
    "What is the most important thing to know?",
    "Everybody believes this, but it is not true.",
    "I will never forget the day when everything went wrong.",
    "If you remember only one thing, let it be this.",
)
CLOSINGS = (
    "And that is the reason why I still do it today.",
    "It was the best decision we ever made.",
    "Since then I have never done it any other way.",
    "That is what I learned from it.",
    "It has stayed with me for the rest of my life.",
)
STOP_WORDS = frozenset(
    """a about above after again against all also am an and another any are as at be because been before being below between both
    but by can cannot come could did do does doing done down during each else even every everybody everything few first for
    from get go goes going gone got had has have having he her here hers herself him himself his how i if in into is it its
    itself just know last let like look made make many may me mean might more most much must my myself never next no nor not
    nothing now of off often oh on once one only or other our ours out over own part perhaps please put rather really right
    said same say saying says see she should since so some somebody something still such take tell than thank that the their
    theirs them themselves then there these they thing things think this those though through time to together too two under
    until up upon us very want was way we well went were what when where whether which while who whole whom whose why will
    with without would year years yes yet you your yours yourself people quite always ever everyone actually okay um uh""".split()
)


def signs_of(text: str) -> frozenset[str]:
    """The names of the signs that a sentence shows."""
    low = text.lower().strip()
    plain = low.rstrip(" .!?…")
    found = {
        name for name, pattern in SIGNS.items() if (pattern.match(low) if name in _AT_START else pattern.search(plain))
    }
    if low.rstrip("\"'”’)").endswith("?") or (_QUESTION_WORDS.match(low) and _ends_open(low)):
        found.add("question")
    return frozenset(found)


def _ends_open(low: str) -> bool:
    """Whether it ends as nothing: without a full stop that would make a statement of it."""
    return not low.endswith((".", "!", "…", ","))
