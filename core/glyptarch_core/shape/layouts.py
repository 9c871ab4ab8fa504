"""A few bodies to begin from. Each is a template like any other, to be changed at will."""

from dataclasses import dataclass

__all__ = ["LAYOUTS", "Layout"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Layout:
    """A body template with its name and purpose."""

    key: str
    name: str
    purpose: str
    body: str


_PICTURE = """{{% if lead %}}<figure class="{side}"><img src="{{{{ lead.url }}}}" alt="{{{{ lead.alt }}}}"></figure>
{{% endif %}}"""
_FILM = """{% if film %}<figure class="film"><video controls preload="none" src="{{ film }}"></video></figure>
{% endif %}"""
_READ_ON = '<p><a href="{{ link }}">Read on at {{ source.title }}</a></p>'

LAYOUTS: tuple[Layout, ...] = (
    Layout(key="whole", name="The whole text", purpose="The body as the steps leave it.", body="{{ body }}"),
    Layout(
        key="picture-top",
        name="Picture on top",
        purpose="The lead image over the text, full width.",
        body=_PICTURE.format(side="top") + "{{ body }}",
    ),
    Layout(
        key="picture-left",
        name="Picture at the left",
        purpose="Text flows around a smaller lead image.",
        body=_PICTURE.format(side="left") + "{{ body }}",
    ),
    Layout(
        key="picture-right",
        name="Picture at the right",
        purpose="Text flows around a smaller lead image.",
        body=_PICTURE.format(side="right") + "{{ body }}",
    ),
    Layout(key="film-top", name="Film on top", purpose="The film first, then the text.", body=_FILM + "{{ body }}"),
    Layout(key="film-bottom", name="Film below", purpose="The text first, then the film.", body="{{ body }}\n" + _FILM),
    Layout(
        key="card",
        name="Card",
        purpose="For offers: picture, excerpt and a price that stays right, in a frame.",
        body="""<blockquote class="card">
"""
        + _PICTURE.format(side="left")
        + """<p>{{ excerpt }}</p>
"""
        + _READ_ON
        + """
</blockquote>
{% offer price %}""",
    ),
    Layout(
        key="product",
        name="Product",
        purpose="For goods: the price with its button on top, then the text, the ratings and what it cost before.",
        body="{% offer price %}\n{{ body }}\n{% offer facts %}\n{% offer rating %}\n{% offer history %}",
    ),
    Layout(
        key="product-review",
        name="Product in pictures",
        purpose="For goods: pictures, the price with its button, features and what buyers say.",
        body="{% offer gallery %}\n{% offer price %}\n<p>{{ excerpt }}</p>\n{% offer features %}\n{% offer rating %}\n"
        "{% offer reviews %}",
    ),
    Layout(
        key="link-note",
        name="Link note",
        purpose="An excerpt and the way to the original.",
        body="<p>{{ excerpt }}</p>\n" + _READ_ON,
    ),
)
