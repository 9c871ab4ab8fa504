"""Every address the server answers."""

from django.urls import include, path

from glyptarch_server.config.api import api
from glyptarch_server.config.openapi import openapi
from glyptarch_server.front.app_page import app_page, icon
from glyptarch_server.front.mapping import robots

handler404 = "glyptarch_server.config.missing.missing"

urlpatterns = [
    path("api/openapi.json", openapi),
    path("api/", api.urls),
    path("blog/", include("glyptarch_server.front.urls")),
    path("robots.txt", robots),
    path("favicon.ico", icon),
    path("media/", include("glyptarch_server.media.urls")),
    path("", include("glyptarch_server.care.urls")),
    path("", include("glyptarch_server.websub.urls")),
    path("", app_page),
    path("desk/", app_page),
    path("desk/<path:rest>", app_page),
    # Targets of links in mails: invitations and new passwords.
    path("join/<path:rest>", app_page),
    path("reset/<path:rest>", app_page),
]
