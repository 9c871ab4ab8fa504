"""Words of Romanian."""

from glyptarch_core.languages.record import Language, phrases, words

__all__ = ["LANGUAGE"]

LANGUAGE = Language(
    code="ro",
    quotes=("„", "”", "«", "»"),
    titles=words("dl dna dr ing prof sf"),
    abbreviations=words("alin art aprox cap ex etc fig lit mil min max nr pag str tel vol"),
    openers=words(
        "acest aceasta am ar au că când care ce cu dacă de din după ea ei el este în într la mai nu o pe "
        "pentru se și sunt un"
    ),
    byline=phrases("de | autor | scris de | text"),
    dated=phrases("publicat | publicat la | actualizat | actualizat la | postat pe"),
    date_words=words("la ora din"),
    today=phrases("azi | astăzi"),
    yesterday=phrases("ieri"),
    notices=phrases(
        "abonează-te la newsletter | abonați-vă la newsletter | newsletterul nostru | publicitate | toate "
        "drepturile rezervate | urmărește-ne | distribuie articolul | folosim cookie-uri | utilizăm "
        "cookie-uri"
    ),
    read_more=phrases("citește mai mult | citește și | citește mai departe | vezi și | mai mult | află mai multe"),
    next_page=phrases(
        "următoarea | următorul | pagina următoare | înainte | mai vechi | încarcă mai mult | vezi mai multe"
    ),
    consent=phrases(
        "folosim cookie-uri | utilizăm cookie-uri | noi și partenerii noștri | confidențialitatea dvs | setări cookie"
    ),
    agree=phrases("accept | acceptă | acceptă toate | refuz | respinge"),
    paywall=phrases(
        "doar pentru abonați | exclusiv pentru abonați | pentru a citi | abonează-te pentru | ești deja abonat"
    ),
    missing=phrases("nu a fost găsită | nu există | acces interzis | eroare internă"),
    login=phrases("autentificare | conectare | parolă"),
    tagged=phrases("etichete | cuvinte cheie | subiecte"),
    buying=phrases("adaugă în coș | adauga in cos | cumpără"),
)
