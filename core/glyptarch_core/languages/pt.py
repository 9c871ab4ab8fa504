"""Words of Portuguese."""

from glyptarch_core.languages.record import Language, phrases, words

__all__ = ["LANGUAGE"]

LANGUAGE = Language(
    code="pt",
    locales=phrases("pt | pt_PT"),
    quotes=("«", "»", "“", "”"),
    titles=words("d dr dra eng prof profa sr sra"),
    abbreviations=words("aprox av cap etc ex fig máx mín núm pág págs tel vol"),
    openers=words(
        "como com depois ela elas ele eles em essa esse está foi isso já mas na no não o os para por "
        "quando se seu sua também um uma"
    ),
    byline=phrases("por | escrito por | autor | texto de | publicado por"),
    dated=phrases("publicado | publicado em | atualizado | atualizado em | última atualização"),
    date_words=words("de às as em h"),
    today=phrases("hoje"),
    yesterday=phrases("ontem"),
    notices=phrases(
        "assine a nossa newsletter | assine nossa newsletter | subscreva a nossa newsletter | nossa "
        "newsletter | publicidade | todos os direitos reservados | siga-nos | compartilhe esta | partilhe "
        "este artigo | usamos cookies | utilizamos cookies"
    ),
    read_more=phrases(
        "leia mais | ler mais | leia também | continuar a ler | continue lendo | veja também | saiba mais"
    ),
    next_page=phrases(
        "próximo | próxima | página seguinte | próxima página | seguinte | mais antigas | carregar mais | ver mais"
    ),
    consent=phrases(
        "usamos cookies | utilizamos cookies | nós e os nossos parceiros | sua privacidade | definições "
        "de cookies | antes de continuar"
    ),
    agree=phrases("aceitar | aceitar tudo | aceito | rejeitar | recusar"),
    paywall=phrases(
        "exclusivo para assinantes | só para assinantes | para continuar a ler | assine para continuar | já é assinante"
    ),
    missing=phrases("não encontrada | não existe | acesso negado | erro interno | em manutenção"),
    login=phrases("iniciar sessão | entrar | palavra-passe | senha"),
    tagged=phrases("etiquetas | marcadores | palavras-chave | temas"),
    buying=phrases("adicionar ao carrinho | comprar | comprar agora"),
)
