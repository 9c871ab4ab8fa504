"""The language of a text, found by its letters.

Naive Bayes over byte n-grams (Lui and Baldwin, “langid.py: An Off-the-shelf Language Identification Tool”, 2012), with
the model of py3langid.
"""

from functools import cache
from importlib.resources import as_file, files
from threading import Lock
from typing import Final

from py3langid.langid import MODEL_FILE, LanguageIdentifier

__all__ = ["found_language"]

_OTHER_TAGS: Final = {
    "no": "nb",
    "nn": "nb",
    "yue": "zh",
    "wuu": "zh",
    "arz": "ar",
    "ary": "ar",
    "uzs": "uz",
    "zxx": "",
}
"""Tags for which readers, blogs and services know another one. Text in no language (``zxx``) has none."""

_LONGEST = 2_000
_FEWEST_LETTERS = 20
_SURE = 0.5
_loading = Lock()


@cache
def _identifier() -> LanguageIdentifier:
    with as_file(files("py3langid") / MODEL_FILE) as model:
        return LanguageIdentifier.from_modelpath(model, norm_probs=True)


def found_language(text: str) -> str:
    """Return the language of a plain text (BCP 47), by its first 2,000 characters.

    Empty where it has fewer than twenty letters or no language is likely enough.
    """
    beginning = text[:_LONGEST]
    if sum(map(str.isalpha, beginning)) < _FEWEST_LETTERS:
        return ""
    with _loading:
        identifier = _identifier()
    # Unpaired surrogates have no bytes.
    tag, likelihood = identifier.classify(beginning.encode("utf-8", "ignore"))
    return _OTHER_TAGS.get(tag, tag) if likelihood >= _SURE else ""
