"""The addresses that hubs call."""

from django.urls import path

from glyptarch_server.websub.views import callback

__all__ = ["urlpatterns"]

urlpatterns = [path("websub/<str:key>", callback)]
