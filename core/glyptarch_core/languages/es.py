"""Words of Spanish."""

from glyptarch_core.languages.record import Language, phrases, words

__all__ = ["LANGUAGE"]

LANGUAGE = Language(
    code="es",
    quotes=("«", "»", "“", "”"),
    titles=words("d dr dra ee ing lic sr sra srta sto sta"),
    abbreviations=words("aprox av avda cap ej etc fig gral máx mín núm pág págs tel tlf ud uds vol"),
    openers=words(
        "como con cuando de del después el ella ellos en esta este hoy la las lo los luego no para pero "
        "por según se si su sus un una y ya"
    ),
    byline=phrases("por | escrito por | autor | autora | texto | publicado por | redacción"),
    dated=phrases("publicado | publicado el | actualizado | actualizado el | última actualización | creado el"),
    date_words=words("de del a las el h"),
    today=phrases("hoy"),
    yesterday=phrases("ayer"),
    notices=phrases(
        "suscríbete a nuestro | suscríbase a nuestro | nuestro boletín | nuestra newsletter | publicidad "
        "| todos los derechos reservados | síguenos en | compartir este artículo | usamos cookies | "
        "utilizamos cookies | activar javascript"
    ),
    read_more=phrases(
        "leer más | seguir leyendo | leer también | lee también | ver también | más información | noticias relacionadas"
    ),
    next_page=phrases(
        "siguiente | página siguiente | siguientes | entradas antiguas | más noticias | cargar más | ver más"
    ),
    consent=phrases(
        "usamos cookies | utilizamos cookies | nosotros y nuestros socios | su privacidad | tu privacidad "
        "| configuración de cookies | antes de continuar"
    ),
    agree=phrases("aceptar | aceptar todo | rechazar | rechazar todo | acepto"),
    paywall=phrases(
        "solo para suscriptores | exclusivo para suscriptores | suscríbete para seguir leyendo | para "
        "seguir leyendo | ya eres suscriptor | contenido para suscriptores"
    ),
    missing=phrases("no encontrada | no existe | acceso denegado | error interno | en mantenimiento"),
    login=phrases("iniciar sesión | contraseña"),
    tagged=phrases("etiquetas | palabras clave | temas | archivado en"),
    buying=phrases("añadir al carrito | agregar al carrito | añadir a la cesta | comprar | comprar ahora"),
)
