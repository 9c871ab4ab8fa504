"""Words of Lithuanian."""

from glyptarch_core.languages.record import Language, phrases, words

__all__ = ["LANGUAGE"]

LANGUAGE = Language(
    code="lt",
    quotes=("„", "“", "‚", "‘"),
    titles=words("dr prof"),
    abbreviations=words("a.k el g kt m mėn min mln mlrd nr p pan pvz tel t.y tūkst val žr"),
    openers=words("ir bet kad jei ji jis į iš su po tai tik už"),
    byline=phrases("autorius | autorė | tekstas"),
    dated=phrases("paskelbta | atnaujinta | publikuota"),
    date_words=words("m d val"),
    today=phrases("šiandien"),
    yesterday=phrases("vakar"),
    notices=phrases(
        "prenumeruokite naujienlaiškį | reklama | visos teisės saugomos | sekite mus | dalintis | naudojame slapukus"
    ),
    read_more=phrases("skaityti daugiau | skaitykite taip pat | plačiau"),
    next_page=phrases("kitas | kitas puslapis | toliau | senesni | rodyti daugiau"),
    consent=phrases("naudojame slapukus | slapukų nustatymai"),
    agree=phrases("sutinku | priimti | atmesti"),
    paywall=phrases("tik prenumeratoriams | norėdami skaityti toliau"),
    missing=phrases("nerasta | neegzistuoja | prieiga uždrausta"),
    login=phrases("prisijungti | slaptažodis"),
    tagged=phrases("žymos | raktiniai žodžiai | temos"),
    buying=phrases("į krepšelį | įdėti į krepšelį | pirkti"),
)
