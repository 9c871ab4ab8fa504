"""Words of Polish."""

from glyptarch_core.languages.record import Language, phrases, words

__all__ = ["LANGUAGE"]

LANGUAGE = Language(
    code="pl",
    quotes=("„", "”", "«", "»"),
    titles=words("dr hab inż ks mec mgr płk prof św"),
    abbreviations=words(
        "al gen godz im itd itp jw kpt m.in mld mln np nr ok os pkt pl por proc pt red str św tel tys tzn "
        "tzw ub ul ur vs wg zob zł"
    ),
    openers=words("a ale do dla gdy i jak jego jej jest już na nie od on ona oni po potem ten to tak w we z za że"),
    byline=phrases("autor | autorka | napisał | napisała | tekst | opracował | opracowała | oprac"),
    dated=phrases("opublikowano | data publikacji | zaktualizowano | aktualizacja | dodano | ostatnia aktualizacja"),
    date_words=words("r roku godz o dnia"),
    today=phrases("dzisiaj | dziś"),
    yesterday=phrases("wczoraj"),
    notices=phrases(
        "zapisz się do naszego newslettera | zapisz się na newsletter | naszego newslettera | reklama | "
        "wszelkie prawa zastrzeżone | obserwuj nas | udostępnij artykuł | używamy plików cookie | ta "
        "strona używa plików cookie | włącz javascript"
    ),
    read_more=phrases(
        "czytaj więcej | czytaj dalej | czytaj też | czytaj także | przeczytaj także | zobacz też | "
        "zobacz także | więcej"
    ),
    next_page=phrases(
        "następna | następna strona | dalej | następne | starsze | starsze wpisy | pokaż więcej | załaduj więcej"
    ),
    consent=phrases(
        "używamy plików cookie | wykorzystujemy pliki cookie | my i nasi partnerzy | twoja prywatność | "
        "ustawienia plików cookie | zanim przejdziesz dalej"
    ),
    agree=phrases("akceptuję | zaakceptuj | zaakceptuj wszystkie | zgadzam się | odrzuć"),
    paywall=phrases(
        "tylko dla prenumeratorów | dla subskrybentów | aby czytać dalej | wykup dostęp | masz już "
        "prenumeratę | kup prenumeratę"
    ),
    missing=phrases("nie znaleziono | nie istnieje | brak dostępu | błąd serwera | przerwa techniczna"),
    login=phrases("zaloguj | hasło"),
    tagged=phrases("tagi | słowa kluczowe | tematy | etykiety"),
    buying=phrases("dodaj do koszyka | do koszyka | kup teraz | kup"),
)
