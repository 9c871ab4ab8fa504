"""Words of Italian."""

from glyptarch_core.languages.record import Language, phrases, words

__all__ = ["LANGUAGE"]

LANGUAGE = Language(
    code="it",
    quotes=("«", "»", "“", "”"),
    titles=words("arch avv dott dr ing on prof sig sigg"),
    abbreviations=words("ad art ca cap ecc es fig max min nr pag pagg tel vol"),
    openers=words(
        "anche che con dal dopo gli ha il in io la le lei lo ma nel non per poi quando questa questo se "
        "si sono un una uno"
    ),
    byline=phrases("di | a cura di | scritto da | autore | testo di | pubblicato da"),
    dated=phrases("pubblicato | pubblicato il | aggiornato | aggiornato il | ultimo aggiornamento"),
    date_words=words("alle ore il del"),
    today=phrases("oggi"),
    yesterday=phrases("ieri"),
    notices=phrases(
        "iscriviti alla nostra newsletter | iscriviti alla newsletter | la nostra newsletter | pubblicità "
        "| tutti i diritti riservati | seguici su | condividi questo articolo | utilizziamo i cookie | "
        "usiamo i cookie | attiva javascript"
    ),
    read_more=phrases(
        "leggi tutto | leggi anche | continua a leggere | leggi di più | vedi anche | per saperne di più"
    ),
    next_page=phrases(
        "avanti | successivo | successiva | pagina successiva | articoli precedenti | carica altro | mostra altro"
    ),
    consent=phrases(
        "utilizziamo i cookie | noi e i nostri partner | la tua privacy | impostazioni cookie | prima di continuare"
    ),
    agree=phrases("accetta | accetta tutto | rifiuta | accetto"),
    paywall=phrases(
        "riservato agli abbonati | contenuto per abbonati | abbonati per continuare | per continuare a "
        "leggere | sei già abbonato"
    ),
    missing=phrases("non trovata | pagina inesistente | accesso negato | errore interno | in manutenzione"),
    login=phrases("accedi | password"),
    tagged=phrases("tag | etichette | parole chiave | argomenti | temi"),
    buying=phrases("aggiungi al carrello | metti nel carrello | acquista | compra"),
)
