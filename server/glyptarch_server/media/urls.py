"""Addresses of stored files."""

from django.urls import path

from glyptarch_server.media import views

urlpatterns = [path("<path:name>", views.kept_file)]
