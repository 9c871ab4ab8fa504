"""Words of Catalan."""

from glyptarch_core.languages.record import Language, phrases, words

__all__ = ["LANGUAGE"]

LANGUAGE = Language(
    code="ca",
    quotes=("«", "»", "“", "”"),
    titles=words("dr dra sr sra"),
    abbreviations=words("aprox av cap etc ex fig núm pàg tel vol"),
    openers=words("a amb aquest aquesta com de del el ella els en i la les no per però quan que si un una"),
    byline=phrases("per | escrit per | autor | autora | text"),
    dated=phrases("publicat | publicat el | actualitzat | actualitzat el"),
    date_words=words("de del a les h"),
    today=phrases("avui"),
    yesterday=phrases("ahir"),
    notices=phrases(
        "subscriu-te al nostre | el nostre butlletí | publicitat | tots els drets reservats | segueix-nos "
        "| comparteix aquest | utilitzem galetes"
    ),
    read_more=phrases("llegir més | llegeix més | continua llegint | vegeu també"),
    next_page=phrases("següent | pàgina següent | més antigues | carrega’n més"),
    consent=phrases("utilitzem galetes | la teva privacitat | configuració de galetes"),
    agree=phrases("accepta | accepta-ho tot | rebutja"),
    paywall=phrases("només per a subscriptors | per continuar llegint"),
    missing=phrases("no trobada | no existeix | accés denegat"),
    login=phrases("inicia sessió | contrasenya"),
    tagged=phrases("etiquetes | paraules clau | temes"),
    buying=phrases("afegeix a la cistella | afegeix al cistell | compra"),
)
