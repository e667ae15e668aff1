"""The languages that a show can be in."""

LANGUAGES = {
    "en": "English", "de": "German", "es": "Spanish", "fr": "French", "it": "Italian", "nl": "Dutch", "pl": "Polish",
    "pt": "Portuguese", "sv": "Swedish", "uk": "Ukrainian",
}  # fmt: skip
