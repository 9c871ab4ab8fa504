"""Mutants of the core.

Files are in ``core/glyptarch_core``, tests in ``tests/core``.
"""

from typing import Final

from tools.mutants.model import Mutant

__all__ = ["CORE"]

_RIGHTS = "release/rights.py"
_WORDS = "source_words.py"
_TEMPLATES = "shape/templates.py"
_TEXT = "pages/main_text.py"
_PRINT = "text/fingerprints.py"

CORE: Final = (
    Mutant("goods with other numbers are one", "match/near.py", "return are_other_products(number, candidate.product)", "return False", "test_goods"),
    Mutant("a pale accent is taken", "appearance/look.py", "if found < ENOUGH:", "if False:", "test_appearance"),
    Mutant("a stored look fails the page", "appearance/look.py", "if name not in wrong", "if True", "test_appearance"),
    Mutant("a front without the newest", "appearance/look.py", "if self.parts and sum(", "if False and sum(", "test_appearance"),
    Mutant("a menu leads to a script", "appearance/look.py", 'urlsplit(to).scheme in {"http", "https"} and', "", "test_appearance"),
    Mutant("a blog's CSS loads from elsewhere", "appearance/look.py", 'return address if address.startswith("/") and', "return address if True or", "test_appearance"),
    Mutant("a summary is nobody's text", _WORDS, "yield features.summary.words", "pass", "test_rights"),
    Mutant("a transcript is nobody's text", _WORDS, "stated = (value for value in item.facts.values() if isinstance(value, str))", "stated = ()", "test_rights"),
    Mutant("alternative texts are nobody's", _WORDS, "*(medium.alt for medium in item.media)", "", "test_rights"),
    Mutant("a link only keeps its lead picture", _RIGHTS, "fields=(), lead=None, tags", "fields=(), lead=texts.lead, tags", "test_rights"),
    Mutant("a link only keeps its fields", _RIGHTS, "fields=(), lead=None, tags", "fields=texts.fields, lead=None, tags", "test_rights"),
    Mutant("a link only keeps its excerpt", _RIGHTS, 'body="", excerpt=""', 'body="", excerpt=texts.excerpt', "test_rights"),
    Mutant("a link only carries text in its title", _RIGHTS, "if budget.spend(title) is not None:", "if False:", "test_rights"),
    Mutant("a link only carries the source's categories as tags", _RIGHTS, "name_key(tag) not in given and", "", "test_rights"),
    Mutant("a title that is the text is carried whole", _WORDS, "return title.between(0, _LONGEST_TITLE)", "return item.title", "test_rights"),
    Mutant("an excerpt carries the text in its title", _RIGHTS, "title, excerpt = budget.line(texts.title),", "title, excerpt = texts.title,", "test_rights"),
    Mutant("an excerpt carries the text in its address", _RIGHTS, "budget.line(texts.address)", "texts.address", "test_rights"),
    Mutant("an excerpt carries the text in its picture", _RIGHTS, "replace(picture, alt=budget.line(picture.alt)) if picture.alt else picture", "picture", "test_rights"),
    Mutant("an excerpt carries the text in rich fields", _RIGHTS, "return replace(filled, value=budget.html(filled.value))", "return filled", "test_rights"),
    Mutant("an excerpt carries the text in an address", _RIGHTS, "unquote_plus(filled.value)", "''", "test_rights"),
    Mutant("words are spent in each text anew", _WORDS, "self._left -= cost", "pass", "test_rights"),
    Mutant("an excerpt has the whole description", _RIGHTS, "budget.line(first_words(texts.description, most))", "texts.description", "test_rights"),
    Mutant("an excerpt has the whole body", _RIGHTS, 'budget.html(first_words_of(texts.body, most, ellipsis="…"))', "texts.body", "test_rights"),
    Mutant("templates get a whole body", _TEMPLATES, 'words.body(str(values["body"]))', 'str(values["body"])', "test_rights"),
    Mutant("templates get a whole excerpt", _TEMPLATES, 'words.text(values["excerpt"])', 'values["excerpt"]', "test_rights"),
    Mutant("templates get whole facts", _TEMPLATES, "words.stated(fact) if isinstance(fact, str) else fact", "fact", "test_rights"),
    Mutant("templates get whole categories", _TEMPLATES, 'map(words.stated, values["categories"])', 'values["categories"]', "test_rights"),
    Mutant("templates get long names", _TEMPLATES, 'words.names(values["authors"])', 'values["authors"]', "test_rights"),
    Mutant("templates get whole alternative texts", _TEMPLATES, 'words.stated(values["lead"]["alt"]) if described', 'values["lead"]["alt"] if described', "test_rights"),
    Mutant("templates get a title that is the text", _TEMPLATES, 'words.title(values["title"])', 'values["title"]', "test_rights"),
    Mutant("changed words cost templates nothing", _WORDS, "    def _is_source(self, _run: tuple[str, ...]) -> bool:\n        return True", "    def _is_source(self, _run: tuple[str, ...]) -> bool:\n        return super()._is_source(_run)", "test_rights"),
    Mutant("half of the text is enough for the main text", _TEXT, "_ENOUGH = 0.82", "_ENOUGH = 0.5", "test_pages test_main_text"),
    Mutant("no block is a notice", _TEXT, "return bool(_NOTICE.search(text)) or (one_link", "return False and (one_link", "test_pages test_main_text"),
    Mutant("a notice of one word drops sentences", _TEXT, "alternatives('notices', fewest=2)", "alternatives('notices')", "test_main_text"),
    Mutant("any line after a byline names somebody", "pages/byline.py", "return all(map(_may_stand_in_name, words)) and", "return True or", "test_byline"),
    Mutant("short bylines count in every language", "pages/byline.py", "len(phrase) >= _SHORT", "True", "test_byline"),
    Mutant("a teaser leads to the next page", "pages/propose.py", "said[text] <= _MOST_NEXT", "True", "test_pages"),
    Mutant("hidden elements are counted as text", "text/markup.py", "drop_hidden(root)\n        markup", "pass\n        markup", "test_markup"),
    Mutant("teasers are part of the article", _TEXT, 'return any(sibling.tag == element.tag and sibling.get("class") == element.get("class") for sibling in kin)', "return False", "test_pages test_main_text"),
    Mutant("the title stands in the text again", _TEXT, 'if element.tag == "h1" or (title and text', "if False and (title and text", "test_pages test_main_text"),
    Mutant("other facts make no other story", "match/near.py", "between.replaced_facts >= _FEWEST_OTHER_FACTS", "False", "test_differing test_near"),
    Mutant("what is replaced weighs nothing", "match/near.py", "if share > _ONE_FORM + slack or (", "if False or (", "test_differing test_near"),
    Mutant("nobody is asked where texts are in doubt", "match/near.py", "return Told.DOUBTFUL if", "return Told.SAME if", "test_differing test_match_scripts"),
    Mutant("a sentence that moved is replaced", "text/differing.py", "_LEAST_MOVED = 7", "_LEAST_MOVED = 700", "test_differing"),
    Mutant("a corrected figure weighs as much as another", "text/differing.py", "_NEAR_NUMBER = 0.5", "_NEAR_NUMBER = 1.25", "test_differing"),
    Mutant("every capital is a name", "text/differing.py", "return self.capitals_tell and self.is_capital(number)", "return self.is_capital(number)", "test_differing"),
    Mutant("what is common counts nothing in the whole", _PRINT, "_LEAST_WEIGHT = 0.35", "_LEAST_WEIGHT = 0.0", "test_near"),
    Mutant("two wholly equal texts need rare words", _PRINT, "_WHOLLY = 0.9", "_WHOLLY = 2.0", "test_near"),
    Mutant("titles with other numbers are alike", _PRINT, "if {word for word in first if word.isdigit()} != {word for word in second if word.isdigit()}:", "if False:", "test_near test_match_pass"),
    Mutant("Chinese texts are compared by characters", _PRINT, "_CJK_SHINGLE = 5", "_CJK_SHINGLE = 1", "test_match_scripts test_near"),
    Mutant("sketches of two lengths are compared as they are", _PRINT, "side.up_to(min(limits))", "side.up_to(max(limits))", "test_near"),
    Mutant("whatever resembles is the same", "match/compare.py", "if compared.same:", "if True:", "test_near test_match_pass"),
    Mutant("a drop cap is a word", "text/trim.py", "going_on = self.within and joins(text)", "going_on = False", "test_markup"),
    Mutant("a name of two months is one of them", "languages/dates.py", "if len(found) == 1}", "}", "test_languages"),
    Mutant("a column does not tell the order of its dates", "languages/dates.py", "return orders.pop() if len(orders) == 1 else None", "return None", "test_languages"),
    Mutant("a date is read without its time", "languages/dates.py", "return _with_time(plain, found[0]) if found else", "return found[0] if found else", "test_languages"),
    Mutant("an empty reading wins", "pages/second_reading.py", "if words and ours_agrees >=", "if ours_agrees >=", "test_second_reading"),
    Mutant("a tiny reading wins", "pages/second_reading.py", "if second_words.total() < _TINY", "if 0 < 0 < _TINY", "test_second_reading"),
    Mutant("a cut is not marked", "text/trim.py", "if budget.cut and ellipsis and not budget.marked:", "if False:", "test_shape_steps test_text test_rights"),
    Mutant("long texts of pictures are kept in a cut", "text/trim.py", "and count_words(value) > words", "and False", "test_rights test_shape_steps"),
    Mutant("a cut keeps every text", "text/trim.py", "if count <= self.left + going_on:", "if True:", "test_shape_steps test_text test_rights"),
    Mutant("no rule refuses", "sift/stage.py", "Sifted(refused=True in against, held", "Sifted(refused=False, held", "test_sift test_stages"),
    Mutant("what depends on the time is kept", "sift/stage.py", "            if not rule.looks_at_clock:\n", "            if True:\n", "test_edits test_sift test_pipeline"),
    Mutant("a run makes one post too many", "release/pace.py", "self._made >= self._at_most:", "self._made > self._at_most:", "test_release"),
    Mutant("posts that wait go out together", "release/pace.py", "return first == bisect_left(self._times, time + self._step)", "return True", "test_release"),
    Mutant("newest first takes the oldest", "release/pace.py", "return (-captured.dated.timestamp(), *tie)", "return (captured.dated.timestamp(), *tie)", "test_release"),
    Mutant("hours that a source asks to skip are read", "polling.py", "if at.hour not in skip_hours:", "if True:", "test_health"),
    Mutant("Retry-After is not kept", "polling.py", "return max(wait * (1 + _SPREAD * part), min(asked, _LONGEST_WAIT))", "return wait * (1 + _SPREAD * part)", "test_health"),
    Mutant("a source is quiet after its longest gap", "health.py", "_FACTOR = 2", "_FACTOR = 1", "test_health"),
    Mutant("counting pixels are pictures", "shape/lead.py", "_SMALLEST = 32", "_SMALLEST = 0", "test_pictures test_stages test_place"),
    Mutant("a failing item fails the pass", "pipeline.py", "                except Exception as error:  # noqa: BLE001 - this is the one", "                except ZeroDivisionError as error:", "test_isolation"),
    Mutant("an hour that the clock skips is run an hour early", "schedule.py", "replace(tzinfo=zone, fold=1)", "replace(tzinfo=zone, fold=0)", "test_schedule"),
    Mutant("links may run scripts", "text/markup.py", "    url_schemes=_SCHEMES,\n", '    url_schemes=_SCHEMES | {"javascript"},\n', "test_markup test_text"),
    Mutant("one failure is an alarm", "health.py", "_FEWEST_FAILURES = 3", "_FEWEST_FAILURES = 1", "test_health"),
)  # fmt: skip
