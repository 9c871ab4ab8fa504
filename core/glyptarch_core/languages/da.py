"""Words of Danish."""

from glyptarch_core.languages.record import Language, phrases, words

__all__ = ["LANGUAGE"]

LANGUAGE = Language(
    code="da",
    quotes=("»", "«", "›", "‹"),
    titles=words("dr hr fr fru prof"),
    abbreviations=words("bl ca dvs evt f.eks inkl jf kl kr max mia mio nr osv pga tlf vedr"),
    openers=words(
        "af at da de den der det efter en et for fra han har hun hvad hvis i jeg man med men nu og om på så til vi"
    ),
    byline=phrases("af | skrevet af | tekst | forfatter"),
    dated=phrases("publiceret | udgivet | opdateret | sidst opdateret | offentliggjort"),
    date_words=words("kl den"),
    today=phrases("i dag"),
    yesterday=phrases("i går"),
    notices=phrases(
        "tilmeld dig vores nyhedsbrev | vores nyhedsbrev | annonce | reklame | alle rettigheder "
        "forbeholdes | følg os på | del artiklen | vi bruger cookies | slå javascript til"
    ),
    read_more=phrases("læs mere | læs også | læs videre | se også | fortsæt"),
    next_page=phrases("næste | næste side | ældre | ældre indlæg | vis flere | indlæs flere"),
    consent=phrases(
        "vi bruger cookies | vi og vores partnere | dit privatliv | cookieindstillinger | før du fortsætter"
    ),
    agree=phrases("accepter | accepter alle | tillad alle | afvis"),
    paywall=phrases("kun for abonnenter | for at læse videre | bliv abonnent | allerede abonnent"),
    missing=phrases("ikke fundet | findes ikke | adgang nægtet | intern fejl"),
    login=phrases("log ind | adgangskode"),
    tagged=phrases("tags | emneord | nøgleord | emner"),
    buying=phrases("læg i kurv | læg i kurven | tilføj til kurv | køb"),
)
