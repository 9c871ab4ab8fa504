"""Sentence ends, by the end marks of the scripts.

Not after an abbreviation, an initial or a day.
"""

import re
from collections.abc import Iterator
from itertools import islice

from glyptarch_core.text.words import MARKS

__all__ = ["sentences"]

# Titles before a name, after which no sentence begins.
_TITLES = frozenset(
    "capt col dhr dipl dott dr dra ee fr gen gov hon hr ing lt mevr mgr mlle mme mr mrs ms mw prof rep rev sen sgt "
    "sig sr sra srta st ste sv św акад им проф ул डॉ प्रो श्री पं".split()
)
# Abbreviations within a sentence or at its end. Those with inner points (``z.b``, ``u.s``) are recognised by form.
_ABBREVIATIONS = _TITLES | frozenset(
    "abs al allg approx apr aprox atd aug av avda ave bl blvd bspw bzw ca cf chap co corp dec dept ecc ed eds ej "
    "enz env est etc evtl feb fig figs ft geb gest ggf inc inh inkl itd itp jan jh jhd jr jul jun km ltd mar max "
    "mio min mrd mt nov np např nr nos núm oct op osv pag pág págs ph.d pp resp sep sept sog str tel tél tj tsd "
    "tzn tzv ud uds uu usw vgl viz vol vs zzgl вв гг др млн млрд напр пр рис руб см стр тыс".split()
)
# Ordinary words unless a number follows: "He said no. Then he left."
_BEFORE_NUMBERS = frozenset({"no", "abb", "art", "bd", "mag"})
# Words with a capital only at the beginning of a sentence, also after an abbreviation.
_OPENERS = frozenset(
    "after all also an and as at but by for from he her here his how if in it its my no not now on our she so "
    "that the their then there these they this to we what when where who why with yes you your aber als am auch "
    "auf bei da danach dann das dem den der des deshalb die dies diese doch ein eine er es für hier ich ihr im "
    "ist jetzt man mit nach nun oder sie sind um und von war was wenn wer wie wir zu zum ainsi au aux avec ce ces "
    "cette dans elle elles en est et il ils je la le les mais nous on où par pour puis quand qui sur un une vous "
    "como con cuando de del después el ella ellos esta este la las lo los luego no pero por según se su sus una y "
    "ya anche che con dal dopo gli ha il io lei lo ma nel non per poi quando questa questo se sono uno com depois "
    "ele ela eles isso mas não os para quando uma daarna dan dat de een en er het hij ik maar met nu ook toen van "
    "wij zij ale gdy jak jest na nie po potem tak to вы где для до его ее если за затем и из как когда мы на не "
    "но однако он она они оно по после потом так там это".split()
)
# After a number and a full stop, a day or a rank: „am 3. März“.
_AFTER_ORDINALS = frozenset(
    "januar jänner februar feber märz april mai juni juli august september oktober november dezember jahrhundert "
    "klasse liga bundesliga platz rang mal stock auflage geburtstag jahrestag runde spieltag teil kapitel advent "
    "weltkrieg".split()
)
# An end mark, closing quotes or brackets, then a space before a possible beginning. Marks of scripts without another
# use for them need no space.
_CLOSING = "\"'”’“‘»«›‹)\\]"
_OWN_CLOSING = "」』）】》”’)\\]\"'"
_END = re.compile(rf"([.!?…؟۔։]+[{_CLOSING}]*)\s+(?=[\"'“‘„‚«»‹›(\[¿¡]*\s?[^\W_])|([。！？।॥။።]+[{_OWN_CLOSING}]*)")
# Quoted speech with its speaker. Such scripts have no capitals to show that the sentence goes on.
_SPEECH = re.compile(r"[。！？।॥။።][」』”’\"']+")
# These end a sentence only before a capital.
_PAUSES = frozenset({"…", "..."})
_MARK = re.compile(r"[.!?…؟۔։。！？।॥။።]")
_MARKS = re.compile(r"[.!?…؟۔։]+|[。！？।॥။።]")
_NEXT_WORD = re.compile(r"[\W_]*([^\W_]*)")
_NO_WORD = re.compile(rf"[^\w.{MARKS}]")
_POINTS_WITHIN = re.compile(r"[^\W\d_]{1,2}(?:\.[^\W\d_]{1,2})+")
_INITIAL = re.compile(r"[^\W\d_]\.?")
_DAY = re.compile(r"\d{1,2}")
_LONGEST_WORD = 24


def _goes_on(before: str, after: str) -> bool:
    """Whether a sentence goes on after a full stop, by the words on both sides."""
    written, opening = _NO_WORD.split(before)[-1], _word_after(after)
    word = written.lower()
    if word in _BEFORE_NUMBERS:
        return opening[:1].isdigit()
    if word in _TITLES or written == "M":
        return True
    if _DAY.fullmatch(word):
        return before.strip() == word or opening.lower() in _AFTER_ORDINALS
    if word in _ABBREVIATIONS or _POINTS_WITHIN.fullmatch(word) or _INITIAL.fullmatch(word):
        return opening.lower() not in _OPENERS
    return False


def _word_after(text: str) -> str:
    match = _NEXT_WORD.match(text)
    return match.group(1) if match else ""


def _ends(text: str) -> Iterator[re.Match[str]]:
    """Yield the end marks after which a sentence may begin.

    Searching for the mark first is faster.
    """
    at = 0
    while mark := _MARK.search(text, at):
        end = _END.match(text, mark.start())
        if end:
            yield end
            at = end.end()
        else:
            # The text after the whole run of marks decides, for each of them.
            run = _MARKS.match(text, mark.start())
            at = run.end() if run else mark.end()


def sentences(text: str, most: int | None = None) -> list[str]:
    """Split one paragraph of plain text into sentences.

    Joined by spaces they give the paragraph. ``most`` limits the number of sentences and the text that is read.
    """
    return list(islice(_sentences(text), most))


def _sentences(text: str) -> Iterator[str]:
    start = 0
    for match in _ends(text):
        end = match.end(1) if match.group(1) else match.end(2)
        after = text[match.end() : match.end() + _LONGEST_WORD]
        first = _word_after(after)[:1]
        if match.group(1) and (first.islower() or (match.group(1) in _PAUSES and not first.isupper())):
            continue
        if match.group(1) == "." and _goes_on(text[max(start, end - _LONGEST_WORD) : end - 1], after):
            continue
        if match.group(2) and _SPEECH.fullmatch(match.group(2)) and _word_after(after.lstrip()[:1]):
            continue
        yield text[start:end].strip()
        start = match.end()
    rest = text[start:].strip()
    if rest:
        yield rest
