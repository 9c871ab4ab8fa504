"""The addresses of health and metrics."""

from django.urls import path

from glyptarch_server.care.views import live, metrics, ready

__all__ = ["urlpatterns"]

urlpatterns = [path("health/live", live), path("health/ready", ready), path("metrics", metrics)]
