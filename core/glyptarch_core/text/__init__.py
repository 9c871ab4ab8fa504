"""Text and markup: words, sentences, links and HTML, with no knowledge of items or rules."""

from glyptarch_core.text.clean import bounded_key, clean_json, clean_line, clean_text
from glyptarch_core.text.common import NOTHING_COMMON, CommonShingles
from glyptarch_core.text.differing import Differences, differences
from glyptarch_core.text.excerpt import Unit, cut
from glyptarch_core.text.fingerprints import (
    FEWEST_SHARED,
    Fingerprint,
    Likeness,
    fingerprint_of,
    likeness,
    shared_passages,
    title_keys,
    title_likeness,
)
from glyptarch_core.text.language import found_language
from glyptarch_core.text.links import canonical_link, host_of, without_tracking
from glyptarch_core.text.markup import absolute, is_hidden, paragraphs, plain_text, sanitise, text_to_html
from glyptarch_core.text.measure import count_words, first_words, shares_run
from glyptarch_core.text.numbers import number_in, pixels
from glyptarch_core.text.passage import Passage
from glyptarch_core.text.phrases import STOP_WORD_LANGUAGES, hashtags, key_phrases
from glyptarch_core.text.same_picture import picture_key, shows_picture
from glyptarch_core.text.sentences import sentences
from glyptarch_core.text.slug import slugify, unused
from glyptarch_core.text.term import Hit, Term
from glyptarch_core.text.trim import first_words_of, trim
from glyptarch_core.text.words import STEMMED, about_words, fold, name_key, title_key

__all__ = [
    "FEWEST_SHARED",
    "NOTHING_COMMON",
    "STEMMED",
    "STOP_WORD_LANGUAGES",
    "CommonShingles",
    "Differences",
    "Fingerprint",
    "Hit",
    "Likeness",
    "Passage",
    "Term",
    "Unit",
    "about_words",
    "absolute",
    "bounded_key",
    "canonical_link",
    "clean_json",
    "clean_line",
    "clean_text",
    "count_words",
    "cut",
    "differences",
    "fingerprint_of",
    "first_words",
    "first_words_of",
    "fold",
    "found_language",
    "hashtags",
    "host_of",
    "is_hidden",
    "key_phrases",
    "likeness",
    "name_key",
    "number_in",
    "paragraphs",
    "picture_key",
    "pixels",
    "plain_text",
    "sanitise",
    "sentences",
    "shared_passages",
    "shares_run",
    "shows_picture",
    "slugify",
    "text_to_html",
    "title_key",
    "title_keys",
    "title_likeness",
    "trim",
    "unused",
    "without_tracking",
]
