"""Words of Estonian."""

from glyptarch_core.languages.record import Language, phrases, words

__all__ = ["LANGUAGE"]

LANGUAGE = Language(
    code="et",
    quotes=("„", "”", "‚", "’"),
    titles=words("dr prof"),
    abbreviations=words("jne jpt jt kl lk lp nn nr näit sh st tel u vms vs"),
    openers=words("aga ja kui ka kuid ta see siis ning on ei"),
    byline=phrases("autor | kirjutas | tekst"),
    dated=phrases("avaldatud | uuendatud | lisatud"),
    date_words=words("kell kl a"),
    today=phrases("täna"),
    yesterday=phrases("eile"),
    notices=phrases(
        "liitu uudiskirjaga | uudiskirja | reklaam | kõik õigused kaitstud | jälgi meid | jaga | kasutame küpsiseid"
    ),
    read_more=phrases("loe edasi | loe lisaks | loe veel | vaata ka"),
    next_page=phrases("järgmine | järgmine leht | edasi | vanemad | näita rohkem"),
    consent=phrases("kasutame küpsiseid | küpsiste seaded"),
    agree=phrases("nõustun | luban | keeldun"),
    paywall=phrases("ainult tellijatele | edasi lugemiseks"),
    missing=phrases("ei leitud | ei eksisteeri | ligipääs keelatud"),
    login=phrases("logi sisse | parool"),
    tagged=phrases("sildid | märksõnad | teemad"),
    buying=phrases("lisa korvi | lisa ostukorvi | osta"),
)
