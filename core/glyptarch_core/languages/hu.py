"""Words of Hungarian."""

from glyptarch_core.languages.record import Language, phrases, words

__all__ = ["LANGUAGE"]

LANGUAGE = Language(
    code="hu",
    quotes=("„", "”", "»", "«"),
    titles=words("dr id ifj özv prof"),
    abbreviations=words(
        "ált db dec ezer feb fő fszla ill jan kb kft max mfszla min nov okt old pl rt stb sz szept tel ti u ui ún vö"
    ),
    openers=words("a az azt de egy ez ezt és ha hogy is itt ki mert mi már meg nem ő ők pedig s csak akkor így"),
    byline=phrases("írta | szerző | szöveg"),
    dated=phrases("közzétéve | megjelent | frissítve | utolsó frissítés"),
    date_words=words("n én kor"),
    today=phrases("ma"),
    yesterday=phrases("tegnap"),
    notices=phrases(
        "iratkozzon fel hírlevelünkre | iratkozz fel hírlevelünkre | hírlevelünkre | hirdetés | reklám | "
        "minden jog fenntartva | kövess minket | oszd meg | sütiket használunk | cookie-kat használunk"
    ),
    read_more=phrases("tovább | tovább olvasom | bővebben | olvass tovább | lásd még | ez is érdekelheti"),
    next_page=phrases("következő | következő oldal | régebbi | régebbi bejegyzések | több megjelenítése | továbbiak"),
    consent=phrases(
        "sütiket használunk | weboldalunk sütiket | mi és partnereink | adatvédelmi beállítások | mielőtt folytatná"
    ),
    agree=phrases("elfogadom | elfogadás | összes elfogadása | elutasítom"),
    paywall=phrases("csak előfizetőknek | előfizetőink számára | a folytatáshoz | fizess elő | már előfizető"),
    missing=phrases("nem található | nem létezik | hozzáférés megtagadva | szerverhiba"),
    login=phrases("bejelentkezés | jelszó"),
    tagged=phrases("címkék | kulcsszavak | témák"),
    buying=phrases("kosárba | kosárba teszem | megveszem"),
)
