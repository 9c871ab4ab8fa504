"""Words of Swedish."""

from glyptarch_core.languages.record import Language, phrases, words

__all__ = ["LANGUAGE"]

LANGUAGE = Language(
    code="sv",
    quotes=("”", "”", "’", "’"),
    titles=words("dr prof"),
    abbreviations=words("bl ca dvs ev exkl fig inkl jfr kl kr max min milj mån nr osv st tel"),
    openers=words(
        "alla att av de den det där efter en ett från för han har hon hur i inte jag man med men nu när "
        "och om på så till vi är"
    ),
    byline=phrases("av | skriven av | text | författare | publicerad av"),
    dated=phrases("publicerad | publicerat | uppdaterad | uppdaterat | senast uppdaterad"),
    date_words=words("kl den klockan"),
    today=phrases("i dag | idag"),
    yesterday=phrases("i går | igår"),
    notices=phrases(
        "prenumerera på vårt nyhetsbrev | anmäl dig till vårt nyhetsbrev | vårt nyhetsbrev | annons | "
        "alla rättigheter förbehållna | följ oss på | dela artikeln | vi använder cookies | vi använder "
        "kakor | aktivera javascript"
    ),
    read_more=phrases("läs mer | läs också | läs även | läs vidare | se också | fortsätt läsa"),
    next_page=phrases("nästa | nästa sida | äldre | äldre inlägg | visa fler | ladda fler"),
    consent=phrases(
        "vi använder cookies | vi använder kakor | vi och våra partner | din integritet | "
        "cookieinställningar | innan du fortsätter"
    ),
    agree=phrases("acceptera | acceptera alla | godkänn | godkänn alla | neka | avvisa"),
    paywall=phrases(
        "endast för prenumeranter | för att läsa vidare | bli prenumerant | redan prenumerant | lås upp artikeln"
    ),
    missing=phrases("hittades inte | finns inte | åtkomst nekad | internt fel"),
    login=phrases("logga in | lösenord"),
    tagged=phrases("taggar | etiketter | ämnen | nyckelord"),
    buying=phrases("lägg i varukorgen | lägg i varukorg | köp"),
)
