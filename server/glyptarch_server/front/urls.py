"""Addresses of the public pages."""

from django.urls import URLPattern, path, re_path

from glyptarch_server.front import basket, dress, feeds, finding, goods, leaving, lists, mapping, views

_FORMS = (("feed.xml", "rss"), ("atom.xml", "atom"), ("feed.json", "json"))

_LANGUAGE = r"(?P<language>[a-z]{2,3}(?:-[A-Za-z0-9]{2,8})*)"


def _lists(language: str = "") -> list[URLPattern]:
    """Return the addresses of lists, feeds and site maps, in the usual language or another."""
    begin = rf"^(?P<blog>[-\w]+)/{language + '/' if language else ''}"
    part = rf"{begin}(?P<kind>section|tag|source|by)/(?P<slug>[^/]+)/"
    return [
        *(re_path(rf"{begin}{file}$", feeds.feed, {"form": form}) for file, form in _FORMS),
        *(re_path(f"{part}{file}$", feeds.feed, {"form": form}) for file, form in _FORMS),
        re_path(rf"{begin}sitemap\.xml$", mapping.site_map_index),
        re_path(rf"{begin}sitemap-news\.xml$", mapping.news_map),
        re_path(rf"{begin}sitemap-(?P<number>[0-9]{{1,9}})\.xml$", mapping.site_map),
        re_path(rf"{begin}search/$", finding.search_page),
        re_path(rf"{begin}archive/$", lists.archive_page),
        re_path(rf"{begin}archive/(?P<year>[0-9]{{1,4}})/(?P<month>[0-9]{{1,2}})/$", lists.month_page),
        re_path(rf"{begin}sources/$", lists.sources_page),
        re_path(rf"{begin}tags/$", lists.tags_page),
        re_path(rf"{begin}goods/$", goods.goods_page),
        re_path(f"{part}$", lists.part_page),
    ]


urlpatterns = [
    path("<slug:blog>/", lists.front_page),
    *_lists(),
    path("<slug:blog>/sources.opml", feeds.sources_list),
    path("<slug:blog>/own.css", dress.own_style_sheet),
    path("<slug:blog>/icon.svg", dress.icon),
    path("<slug:blog>/basket/", basket.basket_page),
    path("<slug:blog>/to/<str:token>/", leaving.counted_link),
    *_lists(_LANGUAGE),
    re_path(rf"^(?P<blog>[-\w]+)/{_LANGUAGE}/$", views.language_or_post),
    path("<slug:blog>/<str:slug>/", views.post_page),
    path("<slug:blog>/<str:slug>/comments/", views.comment_page),
    re_path(rf"^(?P<blog>[-\w]+)/{_LANGUAGE}/(?P<slug>[^/]+)/$", views.post_page),
    re_path(rf"^(?P<blog>[-\w]+)/{_LANGUAGE}/(?P<slug>[^/]+)/comments/$", views.comment_page),
]
