"""Every kind of filter rule, found in the modules of ``kinds/``."""

from collections.abc import Mapping
from functools import reduce
from importlib import import_module
from operator import or_
from pkgutil import iter_modules
from typing import TYPE_CHECKING, Annotated, TypeAlias

from pydantic import Field

from glyptarch_core.sift import kinds
from glyptarch_core.sift.base import Check, SiftContext, SiftRuleBase
from glyptarch_core.sift.description import SiftKind
from glyptarch_core.sift.kinds.group import GroupRule

__all__ = ["KINDS", "SiftRule", "compile_rule"]


def _found() -> tuple[SiftKind, ...]:
    modules = (import_module(f"{kinds.__name__}.{module.name}") for module in iter_modules(kinds.__path__))
    return tuple(sorted((module.KIND for module in modules), key=lambda kind: kind.order))


KINDS: tuple[SiftKind, ...] = _found()
"""The kinds in the order of menus."""

if TYPE_CHECKING:
    SiftRule: TypeAlias = SiftRuleBase
else:
    SiftRule = Annotated[reduce(or_, (kind.rule for kind in KINDS)), Field(discriminator="kind")]
GroupRule.model_rebuild()

_KIND_OF: Mapping[type[SiftRuleBase], SiftKind] = {kind.rule: kind for kind in KINDS}


def compile_rule(rule: SiftRuleBase, lists: Mapping[str, tuple[str, ...]]) -> Check:
    """Compile one rule, with the blog's word lists at hand."""
    context = SiftContext(lists=lists, compile=lambda inner: compile_rule(inner, lists))
    return _KIND_OF[type(rule)].compile(rule, context)
