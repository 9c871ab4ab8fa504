"""Addresses of the public pages."""

from django.urls import path, re_path

from glyptarch_server.front import basket, dress, feeds, finding, goods, leaving, lists, mapping, views

_FORMS = (("feed.xml", "rss"), ("atom.xml", "atom"), ("feed.json", "json"))
_PART = r"^(?P<blog>[-\w]+)/(?P<kind>section|tag|source|by)/(?P<slug>[^/]+)/"

urlpatterns = [
    path("<slug:blog>/", lists.front_page),
    *(path(f"<slug:blog>/{file}", feeds.feed, {"form": form}) for file, form in _FORMS),
    *(re_path(f"{_PART}{file}$", feeds.feed, {"form": form}) for file, form in _FORMS),
    path("<slug:blog>/sitemap.xml", mapping.site_map_index),
    path("<slug:blog>/sitemap-news.xml", mapping.news_map),
    path("<slug:blog>/sitemap-<int:number>.xml", mapping.site_map),
    path("<slug:blog>/own.css", dress.own_style_sheet),
    path("<slug:blog>/icon.svg", dress.icon),
    path("<slug:blog>/search/", finding.search_page),
    path("<slug:blog>/archive/", lists.archive_page),
    path("<slug:blog>/archive/<int:year>/<int:month>/", lists.month_page),
    path("<slug:blog>/sources/", lists.sources_page),
    path("<slug:blog>/sources.opml", feeds.sources_list),
    path("<slug:blog>/tags/", lists.tags_page),
    path("<slug:blog>/goods/", goods.goods_page),
    path("<slug:blog>/basket/", basket.basket_page),
    path("<slug:blog>/to/<str:token>/", leaving.counted_link),
    re_path(f"{_PART}$", lists.part_page),
    path("<slug:blog>/<str:slug>/", views.post_page),
    path("<slug:blog>/<str:slug>/comments/", views.comment_page),
]
