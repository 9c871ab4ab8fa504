"""Why a source gave nothing, and what a person can do about it: one table of all causes.

The sentence of a single failure names its address and is written where it happens. What is said of a cause in
general stands here: of one source, of many, and the remedy.
"""

from collections.abc import Mapping
from dataclasses import dataclass

__all__ = ["CAUSES", "Cause", "cause_of"]


@dataclass(frozen=True, slots=True)
class Cause:
    """What is said of one source and of many, as the rest of a sentence, and the remedy."""

    one: str
    many: str
    remedy: str


_WAIT = "It is tried again by itself."
_ADDRESS = "Look on the site for the address of its feed, and correct it at the source."

CAUSES: Mapping[str, Cause] = {
    # Fetching.
    "bad_address": Cause(
        "has an address that cannot be read",
        "have addresses that cannot be read",
        "Correct the address: it begins with http:// or https://, and has no user name in it.",
    ),
    "private_address": Cause(
        "is inside a private network",
        "are inside a private network",
        "Only public addresses are read. Whoever runs this server can allow a host (GLYPTARCH_FETCH_ALLOW).",
    ),
    "port": Cause(
        "is at a port that is not read",
        "are at ports that are not read",
        "Only the ports 80 and 443 are read. Whoever runs this server can allow others (GLYPTARCH_FETCH_ALLOW).",
    ),
    "unknown_host": Cause(
        "has a host that does not exist",
        "have a host that does not exist",
        "Look for a slip in the name of the host. If it is right, the site has moved or ended.",
    ),
    "unreachable": Cause(
        "does not answer",
        "do not answer",
        f"{_WAIT} If it lasts, open the address in a browser to see whether the site is still there.",
    ),
    "tls": Cause(
        "has no valid certificate",
        "have no valid certificate",
        "Its owner has to renew it. If you trust the site, let “How it is asked” accept any certificate.",
    ),
    "not_found": Cause("does not exist at its address", "do not exist at their addresses", _ADDRESS),
    "gone": Cause(
        "is gone for good", "are gone for good", "Look on the site for another address, or remove the source."
    ),
    "sign_in": Cause(
        "asks for a user name and a password",
        "ask for a user name and a password",
        "Enter them at the source, under “How it is asked”.",
    ),
    "refused": Cause(
        "does not let us read it",
        "do not let us read them",
        "Ask its owner to allow it. If the site wants a key in a header, enter it under “How it is asked”.",
    ),
    "too_many_requests": Cause(
        "was asked too often",
        "were asked too often",
        "We wait as long as it asks for. If it lasts, set a pause under “How it is asked”.",
    ),
    "server_error": Cause(
        "has trouble on its side", "have trouble on their side", f"Its owner has to mend it. {_WAIT}"
    ),
    "status": Cause("answers with an unusual status", "answer with an unusual status", _ADDRESS),
    "no_target": Cause(
        "redirects to nowhere",
        "redirect to nowhere",
        "Its owner has to mend the redirect. Look in a browser whether the site has a new address.",
    ),
    "redirects": Cause(
        "redirects in a circle",
        "redirect in a circle",
        "Some sites do so until a cookie is set, which a feed must not ask for. Look for another address on the site.",
    ),
    "too_slow": Cause("answers too slowly", "answer too slowly", _WAIT),
    "too_large": Cause(
        "is larger than what is read",
        "are larger than what is read",
        "Look whether the site has a shorter feed, for example one of a category.",
    ),
    "cut_off": Cause("broke off before its end", "broke off before their end", _WAIT),
    "bad_encoding": Cause(
        "says that it is compressed, and is not",
        "say that they are compressed, and are not",
        f"Its owner has to mend the Content-Encoding of its answers. {_WAIT}",
    ),
    "robots": Cause(
        "is closed to programs by its robots.txt",
        "are closed to programs by their robots.txt",
        "Ask the owner of the site to allow it, or remove the source.",
    ),
    # Reading what was fetched.
    "empty": Cause(
        "gives an empty answer", "give an empty answer", f"{_WAIT} If it lasts, look at its address in a browser."
    ),
    "page": Cause(
        "gives a web page instead of a feed",
        "give a web page instead of a feed",
        f"{_ADDRESS} A site without a feed can be read by a page reader.",
    ),
    "login_page": Cause(
        "gives a login page instead of a feed",
        "give a login page instead of a feed",
        "The feed is for people who are signed in. Ask its owner for an address with a key, or for one that is open.",
    ),
    "not_a_feed": Cause("gives something that is no feed", "give something that is no feed", _ADDRESS),
    "bad_json": Cause("gives JSON that is broken", "give JSON that is broken", f"Its owner has to mend it. {_WAIT}"),
    "too_costly": Cause(
        "takes too long to take apart",
        "take too long to take apart",
        "Look whether the site has a shorter feed, for example one of a category.",
    ),
    "not_a_page": Cause("gives no web page", "give no web page", "Look at its address in a browser, and correct it."),
    "too_deep": Cause(
        "has a page that is nested too deeply",
        "have pages that are nested too deeply",
        "Use the feed of the site, if it has one.",
    ),
    # Platforms.
    "not_an_answer": Cause(
        "gives an answer without the expected list",
        "give an answer without the expected list",
        "Test the source: it shows the answer, and where its lists are.",
    ),
    "no_list": Cause(
        "gives an answer without the expected list",
        "give an answer without the expected list",
        "Test the source: it shows the answer, and where its lists are.",
    ),
    "no_platform": Cause(
        "names a platform that is not there", "name a platform that is not there", "Make the source anew."
    ),
    "bad_parameters": Cause(
        "has parameters that its platform does not take",
        "have parameters that their platform does not take",
        "Open what the source asks for, and save it anew.",
    ),
}

_OTHER = Cause("cannot be read", "cannot be read", f"{_WAIT} If it lasts, look at its address in a browser.")


def cause_of(code: str) -> Cause:
    """Return the cause with a code, or a general one."""
    return CAUSES.get(code, _OTHER)
