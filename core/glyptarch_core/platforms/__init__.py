"""Platforms: sources with an API.

Those in ``PLATFORMS`` of the modules here are registered.
"""

from collections.abc import Mapping
from functools import cache
from importlib import import_module
from pkgutil import iter_modules
from types import MappingProxyType
from typing import Any

from glyptarch_core.platforms.model import Platform

__all__ = ["platform_of", "platforms"]


@cache
def platforms() -> Mapping[str, Platform[Any]]:
    """Return all platforms by key, ordered by name."""
    modules = [import_module(f"{__name__}.{module_info.name}") for module_info in iter_modules(__path__)]
    platforms = [platform for module in modules for platform in getattr(module, "PLATFORMS", ())]
    return MappingProxyType(
        {platform.key: platform for platform in sorted(platforms, key=lambda platform: platform.name)}
    )


def platform_of(key: str) -> Platform[Any] | None:
    """Return a platform by its key."""
    return platforms().get(key)
