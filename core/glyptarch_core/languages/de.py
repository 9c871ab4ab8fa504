"""Words of German."""

from glyptarch_core.languages.record import Language, phrases, words

__all__ = ["LANGUAGE"]

LANGUAGE = Language(
    code="de",
    nouns_have_capitals=True,
    quotes=("„", "“", "‚", "‘"),
    titles=words("dipl dr hr fr ing prof"),
    abbreviations=words(
        "abs al allg aprox bspw bzw ca ders ebd evtl geb gest ggf inkl jh jhd mind mio mrd nr okt sog str "
        "tel tsd usw vgl zzgl"
    ),
    openers=words(
        "aber als am auch auf bei da danach dann das dem den der des deshalb die dies diese doch ein eine "
        "er es für hier ich ihr im ist jetzt man mit nach nun oder sie sind um und von war was wenn wer "
        "wie wir zu zum"
    ),
    after_ordinals=words(
        "januar jänner februar feber märz april mai juni juli august september oktober november dezember "
        "jahrhundert klasse liga bundesliga platz rang mal stock auflage geburtstag jahrestag runde "
        "spieltag teil kapitel advent weltkrieg"
    ),
    byline=phrases("von | text | text von | autor | autorin | ein beitrag von | geschrieben von"),
    dated=phrases(
        "veröffentlicht | veröffentlicht am | stand | aktualisiert | aktualisiert am | erstellt am | "
        "erschienen am | zuletzt aktualisiert"
    ),
    date_words=words("um am den der uhr vom"),
    today=phrases("heute"),
    yesterday=phrases("gestern"),
    notices=phrases(
        "newsletter abonnieren | melden sie sich für unseren newsletter | unseren newsletter | abonnieren "
        "sie | anzeige | werbung | alle rechte vorbehalten | folgen sie uns | artikel teilen | diesen "
        "artikel teilen | wir verwenden cookies | javascript aktivieren | jederzeit abbestellen"
    ),
    read_more=phrases(
        "weiterlesen | mehr lesen | lesen sie auch | lesen sie mehr | mehr zum thema | mehr | weiter | "
        "siehe auch | das könnte sie auch interessieren"
    ),
    next_page=phrases(
        "weiter | nächste | nächste seite | ältere beiträge | ältere | mehr anzeigen | mehr laden | weitere artikel"
    ),
    consent=phrases(
        "wir verwenden cookies | wir nutzen cookies | datenschutzeinstellungen | cookie-einstellungen | "
        "ihre privatsphäre | bevor sie fortfahren"
    ),
    agree=phrases(
        "zustimmen | akzeptieren | alle akzeptieren | ablehnen | alle ablehnen | einverstanden | ich stimme zu"
    ),
    paywall=phrases(
        "jetzt abonnieren und weiterlesen | nur für abonnenten | exklusiv für abonnenten | um "
        "weiterzulesen | weiterlesen mit | mit einem abo lesen | bereits abonnent | jetzt freischalten | "
        "abo abschließen"
    ),
    missing=phrases(
        "nicht gefunden | seite existiert nicht | zugriff verweigert | interner fehler | wartungsarbeiten "
        "| vorübergehend nicht erreichbar"
    ),
    login=phrases("anmelden | einloggen | passwort"),
    tagged=phrases("tags | schlagwörter | schlagworte | stichwörter | stichworte | themen | abgelegt unter"),
    buying=phrases("in den warenkorb | in den einkaufswagen | in den korb | jetzt kaufen | kaufen | bestellen"),
)
