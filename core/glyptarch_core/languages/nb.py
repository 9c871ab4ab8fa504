"""Words of Norwegian Bokmål."""

from glyptarch_core.languages.record import Language, phrases, words

__all__ = ["LANGUAGE"]

LANGUAGE = Language(
    code="nb",
    locales=phrases("nb | nn"),
    quotes=("«", "»", "‘", "’"),
    titles=words("dr hr fr prof"),
    abbreviations=words("bl ca dvs evt f.eks inkl jf kl kr maks mill mrd nr osv pga tlf"),
    openers=words(
        "alle at av da de den det du en er et etter for fra han har hun hva hvis i ikke jeg man med men "
        "nå og om på som så til vi"
    ),
    byline=phrases("av | skrevet av | tekst | journalist"),
    dated=phrases("publisert | oppdatert | sist oppdatert | lagt ut"),
    date_words=words("kl den"),
    today=phrases("i dag"),
    yesterday=phrases("i går"),
    notices=phrases(
        "meld deg på vårt nyhetsbrev | vårt nyhetsbrev | nyhetsbrevet vårt | annonse | reklame | alle "
        "rettigheter reservert | følg oss på | del artikkelen | vi bruker informasjonskapsler | vi bruker "
        "cookies"
    ),
    read_more=phrases("les mer | les også | les videre | se også | fortsett å lese"),
    next_page=phrases("neste | neste side | eldre | eldre innlegg | vis flere | last inn flere"),
    consent=phrases(
        "vi bruker informasjonskapsler | vi bruker cookies | vi og våre partnere | ditt personvern | før du fortsetter"
    ),
    agree=phrases("godta | godta alle | aksepter | avvis"),
    paywall=phrases("kun for abonnenter | for å lese videre | bli abonnent | allerede abonnent"),
    missing=phrases("ikke funnet | finnes ikke | ingen tilgang | intern feil"),
    login=phrases("logg inn | passord"),
    tagged=phrases("stikkord | emneord | nøkkelord | emner"),
    buying=phrases("legg i handlekurv | legg i handlekurven | kjøp"),
)
