"""Words of Finnish."""

from glyptarch_core.languages.record import Language, phrases, words

__all__ = ["LANGUAGE"]

LANGUAGE = Language(
    code="fi",
    quotes=("”", "”", "’", "’"),
    titles=words("prof tri tohtori"),
    abbreviations=words("alk eaa ed em eur ym jne klo ks mm mrd n nro os puh s seur ts v vs"),
    openers=words("ei että hän ja jos joka kun me mutta myös ne niin nyt on se sen siellä sitten tämä vaan"),
    byline=phrases("kirjoittanut | teksti | toimittaja | kirjoittaja"),
    dated=phrases("julkaistu | päivitetty | viimeksi päivitetty"),
    date_words=words("klo kello"),
    today=phrases("tänään"),
    yesterday=phrases("eilen"),
    notices=phrases(
        "tilaa uutiskirjeemme | uutiskirjeemme | mainos | kaikki oikeudet pidätetään | seuraa meitä | jaa "
        "artikkeli | käytämme evästeitä | ota javascript käyttöön"
    ),
    read_more=phrases("lue lisää | lue myös | jatka lukemista | katso myös"),
    next_page=phrases("seuraava | seuraava sivu | vanhemmat | näytä lisää | lataa lisää"),
    consent=phrases("käytämme evästeitä | me ja kumppanimme | yksityisyytesi | evästeasetukset | ennen kuin jatkat"),
    agree=phrases("hyväksy | hyväksy kaikki | hylkää | salli kaikki"),
    paywall=phrases(
        "vain tilaajille | lukeaksesi jutun | tilaa ja lue | oletko jo tilaaja | jatka lukemista tilaamalla"
    ),
    missing=phrases("ei löytynyt | ei löydy | pääsy estetty | sisäinen virhe"),
    login=phrases("kirjaudu | salasana"),
    tagged=phrases("avainsanat | asiasanat | aiheet | tunnisteet"),
    buying=phrases("lisää ostoskoriin | lisää koriin | osta"),
)
