"""Fast rendering of the template parts that nearly every template has.

Liquid renders text, the value of a name, and a comparison of a name with a number through five calls and two exceptions
each. Here they are compiled when the template is parsed. Everything else (missing names, other types, tags) is left to
Liquid, which defines the meaning; ``tests/core/test_rendering.py`` compares both.
"""

from collections.abc import Callable, Mapping
from io import StringIO
from typing import Any, TextIO

from liquid import BoundTemplate, Environment, RenderContext
from liquid.ast import BlockNode, ConditionalBlockNode, Node
from liquid.builtin.content import ContentNode, Literal
from liquid.builtin.expressions import (
    BooleanExpression,
    Filter,
    FilteredExpression,
    Path,
)
from liquid.builtin.expressions.logical import GtExpression, LtExpression
from liquid.builtin.expressions.primitive import FloatLiteral, IntegerLiteral
from liquid.builtin.output import Output, OutputNode
from liquid.builtin.tags.if_tag import IfNode, IfTag
from liquid.exceptions import LiquidError, OutputStreamLimitError
from liquid.expression import Expression
from liquid.output import LimitedStringIO
from liquid.stringify import to_liquid_string
from liquid.token import Token
from liquid.utils import ReadOnlyChainMap
from markupsafe import Markup, escape

__all__ = ["QuickTemplate", "add_quick_tags"]

_Evaluate = Callable[[RenderContext], Any]

_WANTS = frozenset({"with_context", "with_environment"})
_ABSENT = object()
_NUMBERS = frozenset({int, float})
_PLAIN = frozenset({str, Markup, int, float})


class _Scope(ReadOnlyChainMap):
    """The names in reach, looked up without an exception for each place that has not got them."""

    def get(self, key: str, default: object = None) -> object:
        for names in self._maps:
            if key in names:
                return names[key]
        return default


class _Context(RenderContext):
    """The names of a template: its own and its variables, without ``now`` and ``today``."""

    def __init__(self, template: BoundTemplate, **named: Any) -> None:  # noqa: ANN401 - as the library calls it
        super().__init__(template, **named)
        self.scope = _Scope(self.locals, self.globals, self.counters)


class _Buffer(LimitedStringIO):
    """An output that counts characters, where the library encodes each piece to count its bytes."""

    def write(self, text: str, /) -> int:
        self.size += len(text)
        if self.size > self.limit:
            raise OutputStreamLimitError("output stream limit reached", token=None)
        return _write(self, text)


_write = StringIO.write


class QuickTemplate(BoundTemplate):
    """A template that looks its names up in a quick scope."""

    context_class = _Context

    def make_globals(self, render_args: Mapping[str, object]) -> Mapping[str, object]:
        """Return the names of a rendering in one table.

        The environment has none of its own.
        """
        return render_args

    def _get_buffer(self) -> StringIO:
        limit = self.env.output_stream_limit
        return StringIO() if limit is None else _Buffer(limit=limit)


def _evaluator(expression: Expression) -> _Evaluate:
    """Return the function that evaluates an expression.

    Liquid's for all but names, numbers and comparisons.
    """
    if isinstance(expression, BooleanExpression):
        return _condition(expression)
    if isinstance(expression, FilteredExpression):
        return _filtered(expression)
    if isinstance(expression, Path) and all(type(part) is str for part in expression.path):
        return _name(expression)
    return expression.evaluate


def _name(path: Path) -> _Evaluate:
    first, *rest = (str(part) for part in path.path)

    def look_up(context: RenderContext) -> Any:  # noqa: ANN401 - whatever the template was given
        value = context.scope.get(first, _ABSENT)
        for part in rest:
            if not isinstance(value, dict) or part not in value:
                return path.evaluate(context)
            value = value[part]
        return path.evaluate(context) if value is _ABSENT else value

    return look_up


def _filtered(expression: FilteredExpression) -> _Evaluate:
    left, filters = _evaluator(expression.left), expression.filters
    if not filters:
        return left

    bare: list[tuple[Any, Callable[..., Any] | None]] = []

    def evaluate(context: RenderContext) -> Any:  # noqa: ANN401 - whatever the filters make
        value = left(context)
        if not bare:
            # An expression belongs to one environment, whose filters stay.
            bare.extend((asked, _called_bare(asked, context.env.filters)) for asked in filters)
        for asked, wrapped in bare:
            if wrapped is None:
                value = asked.evaluate(value, context)
                continue
            try:
                value = wrapped(value)
            except LiquidError:
                # Liquid names the position of the fault.
                value = asked.evaluate(value, context)
        return value

    return evaluate


def _called_bare(asked: Filter, built_in: Mapping[str, Callable[..., Any]]) -> Callable[..., Any] | None:
    """Return the function of a filter that takes its value and nothing else."""
    wrapped = built_in[asked.name]
    return None if asked.args or _WANTS.intersection(vars(wrapped)) else wrapped


def _condition(expression: BooleanExpression) -> _Evaluate:
    asked = expression.expression
    if isinstance(asked, Path):
        value_of = _evaluator(asked)

        def holds(context: RenderContext) -> bool:
            value = value_of(context)
            if value is None or type(value) is bool:
                return bool(value)
            return True if type(value) in _PLAIN else expression.evaluate(context)

        return holds
    if isinstance(asked, (LtExpression, GtExpression)) and isinstance(asked.right, (IntegerLiteral, FloatLiteral)):
        left, right, less = _evaluator(asked.left), asked.right.value, isinstance(asked, LtExpression)

        def compare(context: RenderContext) -> bool:
            value = left(context)
            if type(value) not in _NUMBERS:
                return expression.evaluate(context)
            return bool(value < right if less else value > right)

        return compare
    return expression.evaluate


def _always(_context: RenderContext) -> bool:
    return True


class _Text(ContentNode):
    __slots__ = ()

    def render(self, _context: RenderContext, buffer: TextIO) -> int:
        return buffer.write(self.text)


class _Value(OutputNode):
    __slots__ = ("_evaluate",)

    def __init__(self, token: Token, expression: Expression) -> None:
        super().__init__(token, expression)
        self._evaluate = _evaluator(expression)

    def render(self, context: RenderContext, buffer: TextIO) -> int:
        value = self._evaluate(context)
        kind = type(value)
        if kind is str:
            return buffer.write(escape(value) if context.autoescape else value)
        return buffer.write(value if kind is Markup else to_liquid_string(value, context.autoescape))


class _If(IfNode):
    __slots__ = ("_ways",)

    def __init__(
        self,
        token: Token,
        condition: BooleanExpression,
        consequence: BlockNode,
        alternatives: list[ConditionalBlockNode],
        default: BlockNode | None,
    ) -> None:
        super().__init__(token, condition, consequence, alternatives, default)
        # Blocks of white space only are left to the library.
        self._ways: list[tuple[_Evaluate, list[Node]]] = []
        if not self.blank:
            ways = [(condition, consequence), *((way.expression, way.block) for way in alternatives)]
            # A branch of white space beside longer branches: the library shows it after ``if`` alone.
            self._ways = [(_evaluator(asked), [block] if block.blank else block.nodes) for asked, block in ways]
            if default is not None:
                self._ways.append((_always, default.nodes))

    def render_to_output(self, context: RenderContext, buffer: TextIO) -> int:
        if self.blank:
            return super().render_to_output(context, buffer)
        for holds, nodes in self._ways:
            if holds(context):
                written = 0
                for node in nodes:
                    written += node.render(context, buffer)
                return written
        return 0


class _TextTag(Literal):
    node_class = _Text


class _ValueTag(Output):
    node_class = _Value


class _IfTag(IfTag):
    node_class = _If  # type: ignore[assignment]  # the library means the class or one made from it


def add_quick_tags(environment: Environment) -> None:
    """Make an environment parse text, values and conditions into the fast kinds."""
    for tag in (_TextTag, _ValueTag, _IfTag):
        environment.add_tag(tag)
