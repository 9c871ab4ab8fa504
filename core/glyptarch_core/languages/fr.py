"""Words of French."""

from glyptarch_core.languages.record import Language, phrases, words

__all__ = ["LANGUAGE"]

LANGUAGE = Language(
    code="fr",
    quotes=("«\u00a0", "\u00a0»", "“", "”"),
    titles=words("dr me mgr mlle mme mm pr"),
    abbreviations=words("av bd env etc ex fig hab janv févr juil max min n° p pp tél vol"),
    openers=words(
        "ainsi au aux avec ce ces cette dans elle elles en est et il ils je la le les mais nous on où par "
        "pour puis quand qui sur un une vous"
    ),
    byline=phrases("par | écrit par | auteur | texte | publié par | propos recueillis par"),
    dated=phrases("publié | publié le | mis à jour | mis à jour le | mise à jour le | posté le | paru le"),
    date_words=words("à le er du de"),
    today=phrases("aujourd’hui | aujourd'hui"),
    yesterday=phrases("hier"),
    notices=phrases(
        "inscrivez-vous à notre newsletter | abonnez-vous à notre | notre lettre d’information | notre "
        "newsletter | publicité | tous droits réservés | suivez-nous sur | partager cet article | nous "
        "utilisons des cookies | activer javascript"
    ),
    read_more=phrases(
        "lire la suite | lire aussi | à lire aussi | voir aussi | en savoir plus | continuer la lecture | "
        "sur le même sujet"
    ),
    next_page=phrases(
        "suivant | suivante | page suivante | articles plus anciens | plus d’articles | voir plus | charger plus"
    ),
    consent=phrases(
        "nous utilisons des cookies | nous et nos partenaires | votre vie privée | paramètres des cookies "
        "| gérer mes choix | avant de continuer"
    ),
    agree=phrases("accepter | tout accepter | refuser | tout refuser | j’accepte | continuer sans accepter"),
    paywall=phrases(
        "réservé aux abonnés | réservé à nos abonnés | abonnez-vous pour lire | pour lire la suite | il "
        "vous reste | déjà abonné | débloquer cet article"
    ),
    missing=phrases("introuvable | page non trouvée | n’existe pas | accès refusé | erreur interne | en maintenance"),
    login=phrases("se connecter | connexion | mot de passe"),
    tagged=phrases("tags | mots-clés | mots clés | étiquettes | thèmes | classé dans"),
    buying=phrases("ajouter au panier | acheter | commander | mettre dans le panier"),
)
