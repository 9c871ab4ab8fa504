"""Words of Czech."""

from glyptarch_core.languages.record import Language, phrases, words

__all__ = ["LANGUAGE"]

LANGUAGE = Language(
    code="cs",
    quotes=("„", "“", "‚", "‘"),
    titles=words("bc dr ing judr mgr mudr phdr prof sv"),
    abbreviations=words(
        "apod atd cca čl hod kap kč max mil min mj mld např nám obr odst př popř resp roč stol str tel "
        "tis tj tzn tzv ul viz vs"
    ),
    openers=words("a ale by do i jak jako je jeho její jen když k který na ne o od po pro s se tak to v ve z za že"),
    byline=phrases("autor | autorka | napsal | napsala | text | od"),
    dated=phrases("publikováno | vydáno | aktualizováno | zveřejněno | vloženo"),
    date_words=words("v ve dne hod"),
    today=phrases("dnes"),
    yesterday=phrases("včera"),
    notices=phrases(
        "přihlaste se k odběru | našeho newsletteru | reklama | inzerce | všechna práva vyhrazena | "
        "sledujte nás | sdílet článek | používáme cookies | tento web používá cookies | zapněte "
        "javascript"
    ),
    read_more=phrases("číst dále | číst více | čtěte také | čtěte dál | více | viz také | celý článek"),
    next_page=phrases("další | další strana | následující | starší | starší příspěvky | zobrazit další | načíst další"),
    consent=phrases(
        "používáme cookies | tento web používá soubory cookie | my a naši partneři | vaše soukromí | "
        "nastavení cookies | než budete pokračovat"
    ),
    agree=phrases("souhlasím | přijmout | přijmout vše | odmítnout | povolit vše"),
    paywall=phrases(
        "jen pro předplatitele | pouze pro předplatitele | chcete-li číst dál | pokračovat ve čtení | "
        "předplaťte si | odemknout článek"
    ),
    missing=phrases("nenalezena | nebyla nalezena | neexistuje | přístup odepřen | chyba serveru"),
    login=phrases("přihlásit | heslo"),
    tagged=phrases("štítky | klíčová slova | témata | značky"),
    buying=phrases("do košíku | přidat do košíku | vložit do košíku | koupit"),
)
