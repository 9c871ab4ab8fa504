"""Every address the server answers."""

from django.urls import include, path, re_path

from glyptarch_server.config.api import api
from glyptarch_server.front.app_page import app_page

handler404 = "glyptarch_server.config.missing.missing"

urlpatterns = [
    path("api/", api.urls),
    path("blog/", include("glyptarch_server.front.urls")),
    re_path(r"^(?!api/|blog/|static/|assets/).*$", app_page),
]
