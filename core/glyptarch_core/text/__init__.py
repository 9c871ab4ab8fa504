"""Text and markup: words, sentences, links and HTML, with no knowledge of items or rules."""

from glyptarch_core.text.excerpt import Unit, cut
from glyptarch_core.text.links import canonical_link
from glyptarch_core.text.markup import absolute, paragraphs, plain_text, sanitise, text_to_html
from glyptarch_core.text.passage import STEMMED, Hit, Passage, Term, fold, title_key
from glyptarch_core.text.sentences import sentences
from glyptarch_core.text.slug import slugify, unused
from glyptarch_core.text.trim import first_words_of

__all__ = [
    "STEMMED",
    "Hit",
    "Passage",
    "Term",
    "Unit",
    "absolute",
    "canonical_link",
    "cut",
    "first_words_of",
    "fold",
    "paragraphs",
    "plain_text",
    "sanitise",
    "sentences",
    "slugify",
    "text_to_html",
    "title_key",
    "unused",
]
