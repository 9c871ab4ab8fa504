"""Words of Serbian."""

from glyptarch_core.languages.record import Language, phrases, words

__all__ = ["LANGUAGE"]

LANGUAGE = Language(
    code="sr",
    locales=phrases("sr | sr_Latn"),
    quotes=("„", "”", "’", "’"),
    titles=words("dr др проф prof св sv"),
    abbreviations=words("br бр god год itd итд npr нпр str стр tel тел tj тј tzv тзв ul ул"),
    openers=words("а али да до и из је кад како као који на не о од он она они по с са се су што то у за"),
    byline=phrases("аутор | пише | autor | piše"),
    dated=phrases("објављено | ажурирано | objavljeno | ažurirano"),
    date_words=words("u у godine године часова časova"),
    today=phrases("данас | danas"),
    yesterday=phrases("јуче | juče"),
    notices=phrases(
        "пријавите се на наш | наш билтен | реклама | сва права задржана | пратите нас | користимо "
        "колачиће | sva prava zadržana | koristimo kolačiće"
    ),
    read_more=phrases("прочитај више | прочитајте и | опширније | даље | pročitaj više | opširnije"),
    next_page=phrases("следећа | следећа страна | даље | старије | sledeća | sledeća strana"),
    consent=phrases("користимо колачиће | ваша приватност | koristimo kolačiće | vaša privatnost"),
    agree=phrases("прихватам | прихвати | одбиј | prihvatam | odbij"),
    paywall=phrases("само за претплатнике | за наставак читања | претплатите се | samo za pretplatnike"),
    missing=phrases("није пронађена | не постоји | nije pronađena | ne postoji"),
    login=phrases("пријава | лозинка | prijava | lozinka"),
    tagged=phrases("oznake | ključne reči | ознаке | кључне речи"),
    buying=phrases("dodaj u korpu | u korpu | додај у корпу | купи"),
)
