"""Words of Slovenian."""

from glyptarch_core.languages.record import Language, phrases, words

__all__ = ["LANGUAGE"]

LANGUAGE = Language(
    code="sl",
    quotes=("„", "“", "»", "«"),
    titles=words("dr prof sv"),
    abbreviations=words("ipd itd npr oz str tel tj ul"),
    openers=words("a ali da do in iz je ko kot ker na ne o od po s se so to v za"),
    byline=phrases("avtor | avtorica | piše | besedilo"),
    dated=phrases("objavljeno | posodobljeno"),
    date_words=words("ob dne"),
    today=phrases("danes"),
    yesterday=phrases("včeraj"),
    notices=phrases(
        "prijavite se na e-novice | naše e-novice | oglas | vse pravice pridržane | sledite nam | deli "
        "članek | uporabljamo piškotke"
    ),
    read_more=phrases("preberi več | preberite tudi | beri naprej | več"),
    next_page=phrases("naslednja | naslednja stran | naprej | starejše | prikaži več"),
    consent=phrases("uporabljamo piškotke | nastavitve piškotkov"),
    agree=phrases("sprejmi | strinjam se | zavrni"),
    paywall=phrases("samo za naročnike | za nadaljevanje branja"),
    missing=phrases("ni najdena | ne obstaja | dostop zavrnjen"),
    login=phrases("prijava | geslo"),
    tagged=phrases("oznake | ključne besede | teme"),
    buying=phrases("dodaj v košarico | v košarico | kupi"),
)
