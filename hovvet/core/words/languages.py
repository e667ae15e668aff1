"""The languages that a show can be in."""

ENGLISH = "en"
LANGUAGES = {
    "en": "English", "de": "German", "es": "Spanish", "fr": "French", "it": "Italian", "nl": "Dutch", "pl": "Polish",
    "pt": "Portuguese", "sv": "Swedish", "uk": "Ukrainian",
}  # fmt: skip


def limits_of(language: str) -> str:
    """What a person should know of words that were found in a language; "" for English."""
    if language == ENGLISH:
        return ""
    return (
        f"Its words were found in {LANGUAGES.get(language, language)}: their times are less exact than in English, filler sounds "
        "are found where they were written down, and passages are not looked for."
    )
