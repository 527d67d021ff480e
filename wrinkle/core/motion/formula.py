"""Formulas as they are typed into a field, worked out without handing anything to Python.

Ordinary arithmetic with the functions of ``math`` and the names that are given; no attribute, no
index, no text, no call of anything else. All numbers are floats, so that the work is bounded by
the length of the text.
"""

from __future__ import annotations

import ast
import math
import operator
from collections.abc import Callable, Mapping
from functools import lru_cache

from wrinkle.core.errors import InputError

NAMES = ("t", "frame", "p", "fps")
"""Seconds from the cut, frames from the cut, 0 to 1 over the layer, frames per second."""

_LONGEST = 300
_TWO: dict[type[ast.operator], Callable[[float, float], float]] = {
    ast.Add: operator.add,
    ast.Sub: operator.sub,
    ast.Mult: operator.mul,
    ast.Div: operator.truediv,
    ast.FloorDiv: operator.floordiv,
    ast.Mod: operator.mod,
    ast.Pow: math.pow,
}
_ONE: dict[type[ast.unaryop], Callable[[float], float]] = {
    ast.UAdd: operator.pos,
    ast.USub: operator.neg,
}
# Functions of whole numbers (factorial and its kin) refuse floats, and with them unbounded work.
_FUNCTIONS: dict[str, Callable[..., float]] = {
    name: function
    for name, function in vars(math).items()
    if callable(function) and not name.startswith("_")
}
_CONSTANTS = {"pi": math.pi, "e": math.e, "tau": math.tau}


def split_pair(text: str) -> tuple[str, str] | None:
    """The two formulas of a pair: parted at the one comma outside of brackets."""
    depth, commas = 0, []
    for place, letter in enumerate(text):
        depth += (letter == "(") - (letter == ")")
        if letter == "," and depth == 0:
            commas.append(place)
    if len(commas) != 1:
        return None
    return text[: commas[0]], text[commas[0] + 1 :]


def calculate(text: str) -> float:
    """The value of arithmetic without names.

    Raises:
        InputError: it is no arithmetic, or its value is not finite.
    """
    return evaluate(text, {})


def check_formula(text: str) -> None:
    """Refuses what no formula can hold.

    Raises:
        InputError: naming what is not allowed.
    """
    _check(_tree(text, tuple(NAMES)), frozenset(NAMES))


def evaluate(text: str, names: Mapping[str, float]) -> float:
    """The value of a formula.

    Raises:
        InputError: it is no formula, or its value is not a finite number.
    """
    tree = _tree(text, tuple(names))
    try:
        value = _value(tree, names)
    except (ZeroDivisionError, OverflowError, ValueError, TypeError, RecursionError):
        value = math.nan
    if not math.isfinite(value):
        where = f" at {', '.join(f'{k} = {v:g}' for k, v in names.items())}" if names else ""
        raise InputError(f"'{_short(text)}' has no finite value{where}; write another.")
    return value


@lru_cache(maxsize=256)
def _tree(text: str, names: tuple[str, ...]) -> ast.expr:
    cleaned = text.strip().replace("×", "*").replace("−", "-").replace("÷", "/")
    try:
        if len(cleaned) > _LONGEST:
            raise SyntaxError
        tree = ast.parse(cleaned, mode="eval").body
    except (SyntaxError, ValueError, RecursionError, MemoryError):
        example = "sin(t * 6) * 10" if names else "180/5"
        raise InputError(
            f"'{_short(text)}' is not a {'formula' if names else 'number'}; write one, or "
            f"arithmetic such as {example}."
        ) from None
    _check(tree, frozenset(names))
    return tree


def _check(node: ast.expr, names: frozenset[str]) -> None:
    """Walks the whole tree: only what ``_value`` can work out may stand in it."""
    match node:
        case ast.Constant(value=bool()):
            raise InputError("True and False are no numbers; write one.")
        case ast.Constant(value=int() | float()):
            return
        case ast.Name(id=name):
            if name not in names and name not in _CONSTANTS:
                known = ", ".join([*sorted(names), "pi"])
                raise InputError(f"'{name}' is not a number that can be used; there are: {known}.")
        case ast.UnaryOp(op=sign, operand=inner) if type(sign) in _ONE:
            _check(inner, names)
        case ast.BinOp(left=left, op=sign, right=right) if type(sign) in _TWO:
            _check(left, names)
            _check(right, names)
        case ast.Call(func=ast.Name(id=name), args=args, keywords=[]):
            if name not in _FUNCTIONS:
                raise InputError(f"'{name}' is not a function that can be used.")
            for argument in args:
                _check(argument, names)
        case _:
            raise InputError(
                f"'{_short(ast.unparse(node))}' is not a number; write numbers, + - * / ** and "
                "functions such as sin()."
            )


def _value(node: ast.expr, names: Mapping[str, float]) -> float:
    match node:
        case ast.Constant(value=int() | float() as number):
            return float(number)
        case ast.Name(id=name):
            return names[name] if name in names else _CONSTANTS[name]
        case ast.UnaryOp(op=sign, operand=inner):
            return _ONE[type(sign)](_value(inner, names))
        case ast.BinOp(left=left, op=sign, right=right):
            return _TWO[type(sign)](_value(left, names), _value(right, names))
        case ast.Call(func=ast.Name(id=name), args=args):
            return float(_FUNCTIONS[name](*[_value(argument, names) for argument in args]))
    raise TypeError(type(node))


def _short(text: str) -> str:
    text = text.strip()
    return text if len(text) <= 40 else text[:39] + "…"
