"""Words of Dutch."""

from glyptarch_core.languages.record import Language, phrases, words

__all__ = ["LANGUAGE"]

LANGUAGE = Language(
    code="nl",
    quotes=("‘", "’", "“", "”"),
    titles=words("dhr dr drs ing ir mevr mr mw prof"),
    abbreviations=words("bijv blz ca circa enz etc evt fig incl jl max min nl nr resp tel vgl vnl"),
    openers=words(
        "daarna dan dat de die dit een en er haar het hij hoe ik in is maar met nu om ook op te toen van "
        "voor wat we wij zij ze"
    ),
    byline=phrases("door | geschreven door | auteur | tekst | redactie"),
    dated=phrases("gepubliceerd | gepubliceerd op | bijgewerkt | laatst bijgewerkt | geplaatst op"),
    date_words=words("om op uur"),
    today=phrases("vandaag"),
    yesterday=phrases("gisteren"),
    notices=phrases(
        "schrijf je in voor onze nieuwsbrief | meld je aan voor onze | onze nieuwsbrief | advertentie | "
        "alle rechten voorbehouden | volg ons op | deel dit artikel | wij gebruiken cookies | we "
        "gebruiken cookies | schakel javascript in"
    ),
    read_more=phrases("lees meer | lees verder | lees ook | verder lezen | zie ook | meer lezen"),
    next_page=phrases("volgende | volgende pagina | oudere berichten | ouder | meer laden | toon meer"),
    consent=phrases(
        "wij gebruiken cookies | we gebruiken cookies | wij en onze partners | jouw privacy | "
        "cookie-instellingen | voordat je verdergaat"
    ),
    agree=phrases("accepteren | alles accepteren | akkoord | weigeren | alles weigeren"),
    paywall=phrases("alleen voor abonnees | exclusief voor abonnees | om verder te lezen | word abonnee | al abonnee"),
    missing=phrases("niet gevonden | bestaat niet | toegang geweigerd | interne fout | onderhoud"),
    login=phrases("inloggen | aanmelden | wachtwoord"),
    tagged=phrases("tags | trefwoorden | onderwerpen | labels"),
    buying=phrases("in winkelwagen | in winkelmand | toevoegen aan winkelwagen | bestellen | kopen"),
)
