"""Words of Slovak."""

from glyptarch_core.languages.record import Language, phrases, words

__all__ = ["LANGUAGE"]

LANGUAGE = Language(
    code="sk",
    quotes=("„", "“", "‚", "‘"),
    titles=words("bc dr ing judr mgr mudr prof sv"),
    abbreviations=words("a.i atď cca č hod kap max mil min mld napr nám obr ods resp roč str tel tis tj tzn tzv ul vs"),
    openers=words("a ale aj ako by do je jeho jej keď k ktorý na nie o od po pre s sa tak to v vo z za že"),
    byline=phrases("autor | autorka | napísal | napísala | text"),
    dated=phrases("publikované | zverejnené | aktualizované | pridané"),
    date_words=words("o v dňa hod"),
    today=phrases("dnes"),
    yesterday=phrases("včera"),
    notices=phrases(
        "prihláste sa na odber | nášho newslettra | reklama | inzercia | všetky práva vyhradené | "
        "sledujte nás | zdieľať článok | používame cookies | táto stránka používa cookies"
    ),
    read_more=phrases("čítať ďalej | čítať viac | čítajte aj | viac | pozri aj"),
    next_page=phrases("ďalšia | ďalej | nasledujúca | ďalšia strana | staršie | zobraziť viac | načítať viac"),
    consent=phrases("používame cookies | my a naši partneri | vaše súkromie | nastavenia cookies"),
    agree=phrases("súhlasím | prijať | prijať všetko | odmietnuť"),
    paywall=phrases(
        "len pre predplatiteľov | iba pre predplatiteľov | pokračovať v čítaní | predplaťte si | odomknúť článok"
    ),
    missing=phrases("nenájdená | neexistuje | prístup zamietnutý | chyba servera"),
    login=phrases("prihlásiť | heslo"),
    tagged=phrases("štítky | kľúčové slová | témy"),
    buying=phrases("do košíka | pridať do košíka | vložiť do košíka | kúpiť"),
)
