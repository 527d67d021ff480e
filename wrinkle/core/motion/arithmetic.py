"""Plain arithmetic as it is typed into a field: numbers, + - * / **, brackets, pi."""

from __future__ import annotations

import ast
import math
import operator
from collections.abc import Callable

from wrinkle.core.errors import InputError

_LONGEST = 200
_TWO: dict[type[ast.operator], Callable[[float, float], float]] = {
    ast.Add: operator.add,
    ast.Sub: operator.sub,
    ast.Mult: operator.mul,
    ast.Div: operator.truediv,
    ast.Pow: math.pow,
}
_ONE: dict[type[ast.unaryop], Callable[[float], float]] = {
    ast.UAdd: operator.pos,
    ast.USub: operator.neg,
}


def calculate(text: str) -> float:
    """The value of what was typed; a comma as decimal sign is not read.

    Raises:
        InputError: it is no arithmetic, or its value is not finite.
    """
    cleaned = text.strip().replace("×", "*").replace("−", "-").replace("÷", "/")
    try:
        if len(cleaned) > _LONGEST:
            raise SyntaxError
        value = _value(ast.parse(cleaned, mode="eval").body)
    except (SyntaxError, ValueError, RecursionError, MemoryError):
        raise InputError(
            f"'{text.strip()[:40]}' is not a number; write one, or arithmetic such as 180/5."
        ) from None
    except (ZeroDivisionError, OverflowError):
        value = math.nan
    if not math.isfinite(value):
        raise InputError(f"'{text.strip()[:40]}' has no finite value; write another.")
    return value


def _value(node: ast.expr) -> float:
    match node:
        case ast.Constant(value=bool()):
            raise SyntaxError
        case ast.Constant(value=int() | float() as number):
            return float(number)
        case ast.Name(id="pi"):
            return math.pi
        case ast.UnaryOp(op=sign, operand=inner) if type(sign) in _ONE:
            return _ONE[type(sign)](_value(inner))
        case ast.BinOp(left=left, op=sign, right=right) if type(sign) in _TWO:
            return _TWO[type(sign)](_value(left), _value(right))
    raise SyntaxError
