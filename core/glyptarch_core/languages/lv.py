"""Words of Latvian."""

from glyptarch_core.languages.record import Language, phrases, words

__all__ = ["LANGUAGE"]

LANGUAGE = Language(
    code="lv",
    quotes=("“", "”", "„", "“"),
    titles=words("dr prof"),
    abbreviations=words("gs g lpp milj mljrd nr plkst sk st t.i u.c u.tml utt"),
    openers=words("bet ja kā ko lai no par tas tā un uz viņa viņš šis"),
    byline=phrases("autors | teksts"),
    dated=phrases("publicēts | atjaunots | pievienots"),
    date_words=words("gada plkst g"),
    today=phrases("šodien"),
    yesterday=phrases("vakar"),
    notices=phrases(
        "piesakies mūsu | reklāma | visas tiesības aizsargātas | seko mums | dalies | mēs izmantojam sīkdatnes"
    ),
    read_more=phrases("lasīt vairāk | lasīt tālāk | lasi arī | skatīt vairāk"),
    next_page=phrases("nākamā | nākamā lapa | tālāk | vecāki | rādīt vairāk"),
    consent=phrases("mēs izmantojam sīkdatnes | sīkdatņu iestatījumi"),
    agree=phrases("piekrītu | apstiprināt | noraidīt"),
    paywall=phrases("tikai abonentiem | lai turpinātu lasīt"),
    missing=phrases("nav atrasta | neeksistē | piekļuve liegta"),
    login=phrases("pieslēgties | parole"),
    tagged=phrases("birkas | atslēgvārdi | tēmas"),
    buying=phrases("pievienot grozam | ielikt grozā | pirkt"),
)
