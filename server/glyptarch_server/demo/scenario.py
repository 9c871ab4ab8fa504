"""The Dark Meadow Almanac: its sources, and campaigns that differ in their trust."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from glyptarch_core.campaign import CampaignDocument, load_document
from glyptarch_core.pages.document import ReaderDocument

__all__ = [
    "BLOG",
    "BLOG_LANGUAGES",
    "CAMPAIGNS",
    "COMMENTS",
    "GUIDE_BODY",
    "GUIDE_TITLE",
    "PLATFORMS",
    "PODCAST",
    "SOURCES",
    "TERM_TABLES",
    "WORD_LISTS",
    "CampaignPlan",
    "PlatformPlan",
    "bulletin_document",
    "bulletin_reader",
    "document_of_plan",
    "films_document",
    "podcast_document",
]

BLOG = {
    "slug": "dark-meadow",
    "title": "Dark Meadow Almanac",
    "tagline": "For people who watch the night sky from fields and back gardens in the Vale of Orrin",
    "language": "en",
    "time_zone": "Europe/Berlin",
}
TERM_TABLES = {
    "Own words": "scope,telescope\nbinos,binoculars\nVale of Orrin,,https://orrin.example/vale\n",
    # For the step Reword: forms are parted by slashes, other words by bars.
    "Synonyms": "bright,shining\nwatch/watches/watched,observe/observes/observed\n"
    "evening/evenings,night/nights | dusk/dusks\n",
}
WORD_LISTS = {"Not for us": ["horoscope", "sponsored post", "lost and found", "renewals"]}
SOURCES = {
    "meadowlark": "Meadowlark Club",
    "observatory": "Orrin Observatory",
    "skywire": "Skywire Dispatch",
}


@dataclass(frozen=True, slots=True, kw_only=True)
class CampaignPlan:
    """A campaign of the demo, with the revisions its rules went through, oldest first."""

    name: str
    sources: tuple[str, ...]
    when: dict[str, Any]
    revisions: tuple[tuple[str, dict[str, Any]], ...]


_SKY_TERMS = ["comet*", "meteor*", "fireball", "radiant", "planets", "moon", "star chart"]
_HEADLINES: dict[str, Any] = {
    "sift": {
        "rules": [
            {"id": "sky", "kind": "terms", "field": "title_or_text", "mode": "any", "terms": _SKY_TERMS},
            {"id": "not-ours", "kind": "terms", "mode": "none", "lists": ["not-for-us"]},
            {"id": "fresh", "kind": "age", "within_hours": 96},
        ]
    },
    "shape": {
        "copies": {"pictures": True},
        "excerpt": {"taken_from": "summary", "unit": "words", "count": 40},
        "body": "<p>{{ excerpt }}</p>",
    },
    "place": {
        "category": "Headlines",
        "tags": ["in brief"],
        "tag_rules": [{"id": "found", "kind": "matched"}],
        "at_most_tags": 4,
        "byline": "Night desk",
    },
    "release": {"mode": "publish", "hold_when": [{"id": "no-picture", "kind": "no_picture"}]},
}
_CLUB: dict[str, Any] = {
    "sift": {
        "rules": [
            {"id": "long-enough", "kind": "number", "at_least": 60},
            {"id": "no-business", "kind": "terms", "field": "title", "mode": "none",
             "terms": ["minutes", "renewals", "lost and found", "horoscope", "sponsored post"]},
        ]
    },
    "shape": {
        "steps": [{"id": "leftovers", "kind": "drop_paragraphs", "terms": ["originally posted"]}],
        "excerpt": {"taken_from": "text", "unit": "sentences", "count": 2},
    },
    "place": {
        "category": "From the club",
        "category_rules": [
            {"id": "by-table", "kind": "table", "unmapped": "ignore", "rows": [
                {"word": "Gear", "name": "Gear bench"}, {"word": "Evenings", "name": "Evenings out"}]},
            {"id": "meteors", "kind": "terms", "name": "Meteors", "terms": ["meteor*", "fireball*"]},
        ],
        "tags": ["meadowlark"],
        "tag_rules": [{"id": "phrases", "kind": "title", "at_most": 2, "least_letters": 5}],
        "byline": "Club desk",
        "comments": True,
    },
    "release": {"mode": "publish"},
}  # fmt: skip
_REVIEW: dict[str, Any] = {
    "sift": {
        "rules": [
            {"id": "comets", "kind": "terms", "mode": "any", "terms": ["comet*", "meteor*", "radiant", "mirror"]},
            {"id": "length", "kind": "number", "at_least": 120},
            {"id": "age", "kind": "age", "within_hours": 720},
        ]
    },
    "match": {"against": "campaign"},
    "shape": {
        "steps": [{"id": "leftovers", "kind": "drop_paragraphs", "terms": ["originally posted"]}],
        "excerpt": {"taken_from": "text", "unit": "sentences", "count": 3},
        "fields": [
            {
                "id": "reading",
                "name": "reading_time",
                "label": "Reading time",
                "value": "{{ words | divided_by: 200 | plus: 1 }} min",
            }
        ],
        "body": "<p>{{ excerpt }}</p>",
    },
    "place": {"category": "Observatory", "tags": ["measured"], "byline": "Almanac staff"},
    "release": {"mode": "hold"},
}
_STRICTER = {**_REVIEW, "sift": {"rules": [*_REVIEW["sift"]["rules"][:1],
             {"id": "length", "kind": "number", "at_least": 150}, _REVIEW["sift"]["rules"][2]]}}  # fmt: skip

# Readers' comments on the newest posts, newest last; the first ones are approved.
COMMENTS = (
    ("Wren Castell", "We had eleven from the reservoir wall, the brightest with a trail of a good ten seconds.", True),
    ("Tobin Quill", "Thank you for the note on parking. The gate by the drovers’ road is open until midnight.", True),
    ("Ida Farrow", "Could you say which eyepiece that was? In the valley the haze took all but the planets.", False),
    ("Night owl", "cheap watches best price click here", False),
)  # fmt: skip

CAMPAIGNS = (
    CampaignPlan(
        name="Sky headlines",
        sources=("skywire", "observatory"),
        when={"kind": "every", "minutes": 30},
        revisions=(("", _HEADLINES),),
    ),
    CampaignPlan(
        name="Club syndicate",
        sources=("meadowlark",),
        when={"kind": "daily", "times": ["07:00", "18:00"]},
        revisions=(
            ("", {**_CLUB, "shape": {**_CLUB["shape"], "steps": []}}),
            ("take out “originally posted” lines", _CLUB),
        ),
    ),
    CampaignPlan(
        name="Comets & meteor showers",
        sources=("observatory", "meadowlark", "skywire"),
        when={"kind": "cron", "expression": "15 6 * * mon-fri"},
        revisions=(("", _REVIEW), ("120 words let thin notes in", _STRICTER)),
    ),
)


_BULLETIN: dict[str, Any] = {
    "sift": {"rules": [{"id": "long-enough", "kind": "number", "at_least": 60}]},
    "shape": {"excerpt": {"taken_from": "text", "unit": "sentences", "count": 2}},
    "place": {
        "category": "Observatory",
        # One section of the site has a category, which its items carry.
        "category_rules": [{"id": "by-section", "kind": "table", "unmapped": "create", "rows": []}],
        "byline": "Almanac staff",
    },
    "release": {"mode": "hold"},
}


def bulletin_reader(url: str) -> ReaderDocument:
    """Return the reader of the observatory's bulletin, a site without a feed."""
    fields = {"date": "article.note time", "picture": "article.note img", "excerpt": "article.note p"}
    return ReaderDocument.model_validate(
        {
            "url": url,
            "list_page": {
                "link": "article.note h2 > a",
                "fields": [{"name": name, "ways": [{"selector": selector}]} for name, selector in fields.items()],
                "next": "a[rel=next]",
                "pages": 2,
            },
            "sections": [
                {"url": f"{url}sky/", "name": "Sky", "category": "Comets"},
                {"url": f"{url}dome/", "name": "Dome", "category": "Dome and mirrors"},
                {"url": f"{url}evenings/", "name": "Evenings", "category": "Evenings out"},
                {"url": f"{url}staff/", "name": "Staff", "on": False},
            ],
            "article": {"next_part": "a.continue"},
        }
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class PlatformPlan:
    """A platform of the demo's world: the connection to it, and a source that is read with it."""

    platform: str
    connection: str
    fields: Mapping[str, str]
    title: str
    parameters: Mapping[str, Any]
    words: tuple[str, ...] = ()


# Keys known to the stand-ins, shown on their control page.
PLATFORMS = (
    PlatformPlan(
        platform="wire",
        connection="Vale wire",
        fields={"key": "wire-key-of-the-vale"},
        title="Wire: comets and meteors",
        parameters={"span": "latest"},
        words=("comet", "meteor", "mirror"),
    ),
    PlatformPlan(
        platform="films",
        connection="Films of the vale",
        fields={"token": "films-token-of-the-vale"},
        title="Films from the ridge",
        parameters={"channel": "ridgefilms", "order": "newest"},
        words=("comet", "dome", "aurora"),
    ),
    PlatformPlan(
        platform="questions",
        connection="Night board",
        fields={"key": "board-key-of-the-vale"},
        title="Questions about comets",
        parameters={},
        words=("comet", "telescope"),
    ),
    PlatformPlan(
        platform="articles",
        connection="Orrin directory",
        fields={"key": "directory-key-of-the-vale"},
        title="Directory: the night sky",
        parameters={},
        words=("meteor", "moon"),
    ),
)
PODCAST = "ridgecast"
"""The name of the podcast among the stand-ins."""
_FILMS: dict[str, Any] = {
    "sift": {"rules": [{"id": "long-enough", "kind": "number", "at_least": 60}]},
    "shape": {"excerpt": {"taken_from": "summary", "unit": "sentences", "count": 2}, "copies": {"pictures": True}},
    "place": {"category": "Observatory", "byline": "Almanac staff", "kind": "film"},
    "release": {"mode": "hold"},
}


@dataclass(frozen=True, slots=True, kw_only=True)
class SmallBlog:
    """A further blog of the vale: one campaign on one platform, and a look of its own."""

    blog: Mapping[str, str]
    look: Mapping[str, Any]
    platform: PlatformPlan
    campaign: str
    rules: Mapping[str, Any]
    # What it says of shops; with it the shop is read on several days before, so that prices have a history.
    disclosure: str = ""


_AT_ONCE = {"copies": {"pictures": True}, "excerpt": {"taken_from": "summary", "unit": "sentences", "count": 1}}
_GEAR_FIELDS = [
    {"id": "stars", "name": "stars", "label": "Stars", "type": "number", "value": "{{ facts.rating }}"},
]
_GEAR_BODY = """<p>{{ excerpt }}</p>
{% offer price, wording: "See it at the workshop" %}
{% offer features %}
{% offer gallery %}
<h2>What it cost</h2>
{% offer history %}
<h2>What buyers say</h2>
{% offer rating %}
{% offer reviews %}"""
TRANSLATED_BLOG = {
    "slug": "orrin-sky",
    "title": "Sky over Orrin",
    "tagline": "What the observatory reports",
    "language": "en",
    "time_zone": "Europe/Berlin",
}
BLOG_LANGUAGES: list[tuple[dict[str, Any], str]] = [
    ({"tag": "de", "title": "Himmel über Orrin", "tagline": "Was das Observatorium berichtet"}, "Sternwarte"),
    ({"tag": "ja", "title": "オリンの空", "tagline": "天文台からの便り"}, "天文台"),
    ({"tag": "ar", "title": "سماء أورين", "tagline": "أخبار المرصد"}, "المرصد"),
]
"""The languages of this blog beside English, and what its category is named in each."""

TRANSLATED_RULES: dict[str, Any] = {
    "gather": {"at_most": 6},
    "sift": {"rules": [{"id": "long-enough", "kind": "number", "at_least": 60}]},
    "place": {"category": "Observatory"},
    "release": {
        "mode": "publish",
        "editions": [{"to": "de", "mode": "publish"}, {"to": "ja", "mode": "hold"}, {"to": "ar", "mode": "publish"}],
    },
}
LANGUAGE_SERVICES = (
    ("Vale translations", "list", "texts", 20),
    ("Model of the vale", "chat", "chat", None),
)
"""Name, form, path below ``/lingua/`` and price of a million characters, of the services of the translated blog."""

GUIDE_TITLE = "Which glass for a first night out?"
"""The title of the guide that compares the products with the best ratings."""

GUIDE_BODY = """<p>Three things from the workshops that we would carry to the ridge first, by what their buyers say.</p>
<h2>Side by side</h2>
<div data-offer="compare" data-products="{keys}"></div>
<h2>The one we would take</h2>
<div data-offer="price" data-products="{best}"></div>
<div data-offer="rating" data-products="{best}"></div>
<h2>Also liked</h2>
<div data-offer="best"></div>"""
SMALL_BLOGS = (
    SmallBlog(
        blog={
            "slug": "orrin-gear",
            "title": "Orrin Gear Guide",
            "tagline": "What the workshops of the vale sell to people who look up",
            "language": "en",
            "time_zone": "Europe/Berlin",
        },
        look={
            "front": "guide",
            "masthead": "plain",
            "letters": "plain",
            "corners": "sharp",
            "accent": "#1f6d55",
            "foot": "Prices are those of the time at which they were read.",
        },
        platform=PlatformPlan(
            platform="shop",
            connection="Glasswright’s shop",
            fields={"key": "shop-key-of-the-vale"},
            title="Glasswright’s shop",
            parameters={"order": "newest"},
        ),
        campaign="Goods",
        disclosure="The guide earns a share when you buy through its links.",
        rules={
            "sift": {"rules": []},
            "match": {"rules": []},
            "shape": {**_AT_ONCE, "fields": _GEAR_FIELDS, "body": _GEAR_BODY},
            "place": {
                "category": "Goods",
                "byline": "Gear desk",
                "kind": "product",
                "tag_rules": [{"id": "own", "kind": "source"}],
            },
            "release": {"mode": "publish"},
        },
    ),
    SmallBlog(
        blog={
            "slug": "ridge-screening",
            "title": "Ridge Screening Room",
            "tagline": "Short films of the night, made in the valley",
            "language": "en",
            "time_zone": "Europe/Berlin",
        },
        look={"front": "screening", "masthead": "band", "letters": "book", "ground": "#3a2447", "accent": "#8a2c5e"},
        platform=PlatformPlan(
            platform="films",
            connection="Films of the vale",
            fields={"token": "films-token-of-the-vale"},
            title="Films from the ridge",
            parameters={"channel": "ridgefilms", "order": "newest"},
        ),
        campaign="Films",
        rules={
            "sift": {"rules": []},
            "shape": _AT_ONCE,
            "place": {"category": "Films", "byline": "Projectionist", "kind": "film"},
            "release": {"mode": "publish"},
        },
    ),
)


def podcast_document(source: str) -> CampaignDocument:
    """Return the rules of the podcast campaign.

    It copies episodes and publishes them directly.
    """
    shape = {"copies": {"recordings": True}, "excerpt": {"taken_from": "summary", "unit": "sentences", "count": 2}}
    rules = {
        "shape": shape,
        "place": {"category": "Ridge talk", "byline": "Night desk", "kind": "episode"},
        "release": {"mode": "publish"},
    }
    return load_document({**rules, "gather": {"sources": [source]}})


def films_document(source: str) -> CampaignDocument:
    """Return the rules of the films campaign."""
    return load_document({**_FILMS, "gather": {"sources": [source]}})


def bulletin_document(source: str) -> CampaignDocument:
    """Return the rules of the bulletin campaign."""
    return load_document({**_BULLETIN, "gather": {"sources": [source]}})


def document_of_plan(plan: CampaignPlan, revision: int, keys: dict[str, str]) -> CampaignDocument:
    """Return the rules of a planned revision.

    ``keys`` are the source keys by stand-in name.
    """
    _, data = plan.revisions[revision]
    return load_document({**data, "gather": {"sources": [keys[name] for name in plan.sources]}})
