"""Addresses of the public pages."""

from django.urls import path

from glyptarch_server.front import views

urlpatterns = [
    path("<slug:blog>/", views.front_page),
    path("<slug:blog>/feed.xml", views.feed, {"kind": "rss"}),
    path("<slug:blog>/atom.xml", views.feed, {"kind": "atom"}),
    path("<slug:blog>/section/<str:slug>/", views.category_page),
    path("<slug:blog>/tag/<str:slug>/", views.tag_page),
    path("<slug:blog>/<str:slug>/", views.post_page),
    path("<slug:blog>/<str:slug>/comments/", views.comment_page),
]
