"""Words of Croatian."""

from glyptarch_core.languages.record import Language, phrases, words

__all__ = ["LANGUAGE"]

LANGUAGE = Language(
    code="hr",
    quotes=("„", "”", "‚", "’"),
    titles=words("dr ing mr prof sv"),
    abbreviations=words("br čl dr god i.dr itd mil mlrd npr odn sl st str tel tj tzv ul"),
    openers=words("a ali da do i iz je kad kako kao koji na ne o od on ona oni po s sa se su što to u za"),
    byline=phrases("autor | autorica | piše | napisao | napisala | tekst"),
    dated=phrases("objavljeno | ažurirano | zadnja izmjena"),
    date_words=words("u godine sati"),
    today=phrases("danas"),
    yesterday=phrases("jučer"),
    notices=phrases(
        "prijavite se na naš newsletter | naš newsletter | oglas | sva prava pridržana | pratite nas | "
        "podijeli članak | koristimo kolačiće"
    ),
    read_more=phrases("pročitaj više | pročitajte više | pročitajte i | čitaj dalje | nastavi čitati | više"),
    next_page=phrases(
        "sljedeća | sljedeće | iduća | sljedeća stranica | starije | starije objave | učitaj još | prikaži više"
    ),
    consent=phrases("koristimo kolačiće | mi i naši partneri | vaša privatnost | postavke kolačića"),
    agree=phrases("prihvaćam | prihvati | prihvati sve | odbij | slažem se"),
    paywall=phrases("samo za pretplatnike | za nastavak čitanja | pretplatite se | već ste pretplatnik"),
    missing=phrases("nije pronađena | ne postoji | pristup odbijen | greška poslužitelja"),
    login=phrases("prijava | prijavi se | lozinka"),
    tagged=phrases("oznake | ključne riječi | teme"),
    buying=phrases("dodaj u košaricu | u košaricu | kupi"),
)
