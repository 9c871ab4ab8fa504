"""Untrusted style sheets, filtered by an allow-list for use in a frame.

tinycss2 parses them as browsers do (CSS Syntax Module Level 3), so escapes, comments and unclosed blocks hide nothing.
"""

from collections.abc import Callable, Iterable
from typing import Any

import tinycss2
from tinycss2 import ast

__all__ = ["safe_declarations", "safe_style_sheet"]

_LONGEST = 400_000
"""Characters of a style sheet that are looked at; what comes after is left out."""

_DEEPEST = 24
_NESTED = frozenset({"media", "supports", "layer", "container", "keyframes", "-webkit-keyframes", "scope"})
"""At-rules that are kept: they hold rules and load nothing."""

_LOADING = frozenset(
    {"image-set", "-webkit-image-set", "src", "image", "cross-fade", "-webkit-cross-fade", "element", "paint"}
)
"""Functions that can load something by a plain text: they are left out."""

Resolve = Callable[[str], str]
"""Returns the whole address of one that stands in the style sheet; empty for what is none."""
Served = Callable[[str], str]
"""Returns the address under which we serve what stands at an address."""


def safe_style_sheet(css: str, resolve: Resolve, served: Served) -> str:
    """Return a style sheet without foreign requests.

    Pictures get addresses from ``served``.
    """
    rules = tinycss2.parse_stylesheet(css[:_LONGEST], skip_comments=True, skip_whitespace=True)
    return _written(_Cleaner(resolve, served).rules(rules, 0))


def safe_declarations(css: str, resolve: Resolve, served: Served) -> str:
    """Return the declarations of a ``style`` attribute without foreign requests.

    Pictures get addresses from ``served``.
    """
    tokens = tinycss2.parse_component_value_list(css[:_LONGEST], skip_comments=True)
    return _written(_Cleaner(resolve, served).values(tokens, 0))


def _written(nodes: list[Any]) -> str:
    # A style element ends at the first “</” (HTML, 13.2.5.15).
    return str(tinycss2.serialize(nodes)).replace("</", "<\\/")


class _Cleaner:
    """Keeps the allowed parts of parsed rules and values.

    tinycss2 serialises them and separates tokens that would otherwise join, such as ``@`` and ``import``.
    """

    def __init__(self, resolve: Resolve, served: Served) -> None:
        self._resolve, self._served = resolve, served

    def rules(self, rules: Iterable[Any], depth: int) -> list[Any]:
        """Return the allowed rules, nested ones included."""
        return [rule for rule in rules if self._is_kept(rule, depth)] if depth < _DEEPEST else []

    def _is_kept(self, rule: Any, depth: int) -> bool:  # noqa: ANN401 - tinycss2 has no types
        """Whether a rule is kept.

        Disallowed parts inside it are removed.
        """
        if isinstance(rule, ast.QualifiedRule):
            rule.content = self.values(rule.content, depth)
        elif isinstance(rule, ast.AtRule) and rule.lower_at_keyword in _NESTED and rule.content is not None:
            inside = tinycss2.parse_rule_list(rule.content, skip_comments=True, skip_whitespace=True)
            rule.content = self.rules(inside, depth + 1)
        else:
            return False
        rule.prelude = self.values(rule.prelude, depth)
        return True

    def values(self, tokens: Iterable[Any], depth: int) -> list[Any]:
        """Return the allowed component values."""
        return [kept for token in tokens if (kept := self._value(token, depth)) is not None] if depth < _DEEPEST else []

    def _value(self, token: Any, depth: int) -> Any:  # noqa: ANN401 - tinycss2 has no types
        if isinstance(token, ast.Comment | ast.AtKeywordToken | ast.ParseError):
            return None
        if isinstance(token, ast.URLToken):
            return self._picture(token.value)
        if isinstance(token, ast.FunctionBlock):
            return self._function(token, depth)
        if isinstance(token, ast.ParenthesesBlock | ast.SquareBracketsBlock | ast.CurlyBracketsBlock):
            token.content = self.values(token.content, depth + 1)
        return token

    def _function(self, token: Any, depth: int) -> Any:  # noqa: ANN401 - tinycss2 has no types
        if token.lower_name == "url":
            texts = [part.value for part in token.arguments if isinstance(part, ast.StringToken)]
            return self._picture(texts[0]) if texts else _NOTHING
        if token.lower_name in _LOADING:
            return _NOTHING
        token.arguments = self.values(token.arguments, depth + 1)
        return token

    def _picture(self, address: str) -> Any:  # noqa: ANN401 - tinycss2 has no types
        whole = self._resolve(address.strip())
        return tinycss2.parse_one_component_value(f'url("{self._served(whole)}")') if whole else _NOTHING


_NOTHING = tinycss2.parse_one_component_value("none")
