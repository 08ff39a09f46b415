"""Arguments of the library are checked against their annotations before anything else happens."""

from __future__ import annotations

import collections.abc
import inspect
import math
import os
import types
import typing
from collections.abc import Callable, Mapping
from fractions import Fraction
from functools import cache, wraps
from numbers import Integral, Real
from typing import Any, Literal, ParamSpec, TypeVar, Union, get_args, get_origin

from young_tremor.base.errors import RequestError

Parameters = ParamSpec("Parameters")
Result = TypeVar("Result")
MOST_WHOLE = 2**53
WORDS = {str: "text", float: "a number", int: "a whole number", bool: "True or False", Fraction: "a fraction"}


def check_arguments(function: Callable[Parameters, Result]) -> Callable[Parameters, Result]:
    """Refuse arguments that do not fit the annotations of a function: RequestError that names the argument.

    Numbers have to be finite, whole numbers below 2**53. Iterables become tuples, whose items are checked too.
    """
    signature = inspect.signature(function)

    @wraps(function)
    def call(*arguments: Parameters.args, **named: Parameters.kwargs) -> Result:
        try:
            bound = signature.bind(*arguments, **named)
        except TypeError as error:
            raise RequestError(f"{function.__name__}: {error}.") from None
        for name, value in bound.arguments.items():
            hint = _hints(function).get(name, Any)
            fits, value = _fit(value, hint)
            if not fits:
                raise RequestError(
                    f"{function.__name__}: “{name}” cannot be {_short(value)}: "
                    f"give {' or '.join(_describe_hint(hint))}."
                )
            bound.arguments[name] = value
        return function(*bound.args, **bound.kwargs)

    return call


def check_fields(value: Any, function: str) -> None:
    """Refuse fields of a frozen dataclass that do not fit their annotations, as arguments of ``function`` are."""
    kind: Callable[..., Any] = type(value)
    for name, hint in _hints(kind).items():
        fits, passed = _fit(getattr(value, name), hint)
        if not fits:
            words = " or ".join(_describe_hint(hint))
            raise RequestError(f"{function}: “{name}” cannot be {_short(getattr(value, name))}: give {words}.")
        object.__setattr__(value, name, passed)


@cache
def _hints(function: Callable[..., Any]) -> Mapping[str, Any]:
    return typing.get_type_hints(function)


def _fit(value: Any, hint: Any) -> tuple[bool, Any]:
    """Whether a value fits an annotation, and the value as it is passed on."""
    origin, inner = get_origin(hint), get_args(hint)
    if hint is Any or hint is object:
        return True, value
    if origin in (Union, types.UnionType):
        for part in inner:
            fits, passed = _fit(value, part)
            if fits:
                return True, passed
        return False, value
    if origin is Literal:
        return isinstance(value, str) and value in inner, value
    if origin is tuple:
        return _fit_items(value, inner)
    if origin is collections.abc.Iterable:
        return _fit_iterable(value, inner[0])
    if origin is collections.abc.Callable:
        return callable(value), value
    if origin is os.PathLike:
        return isinstance(value, os.PathLike) and isinstance(os.fspath(value), str), value
    return _fit_plain(value, hint), value


def _fit_plain(value: Any, hint: Any) -> bool:
    if hint is bool:
        return isinstance(value, bool)
    if isinstance(value, bool):
        return False
    if hint is int:
        return isinstance(value, Integral) and abs(int(value)) < MOST_WHOLE
    if hint is float:
        return isinstance(value, Real) and not isinstance(value, Fraction) and _is_finite(value)
    return isinstance(value, hint if isinstance(hint, type) else type(hint))


def _is_finite(value: Any) -> bool:
    try:
        return math.isfinite(value)
    except OverflowError:
        return False


def _fit_items(value: Any, hints: tuple[Any, ...]) -> tuple[bool, Any]:
    if not isinstance(value, tuple | list) or len(value) != len(hints):
        return False, value
    items = [_fit(item, hint) for item, hint in zip(value, hints, strict=True)]
    return all(fits for fits, _ in items), tuple(passed for _, passed in items)


def _fit_iterable(value: Any, hint: Any) -> tuple[bool, Any]:
    if isinstance(value, str | bytes | collections.abc.Mapping) or not isinstance(value, collections.abc.Iterable):
        return False, value
    try:
        items = [_fit(item, hint) for item in value]
    except Exception:  # whatever a foreign iterator raises
        return False, value
    return all(fits for fits, _ in items), tuple(passed for _, passed in items)


def _describe_hint(hint: Any) -> list[str]:
    """What an annotation takes, in words."""
    origin, inner = get_origin(hint), get_args(hint)
    if origin in (Union, types.UnionType):
        return list(dict.fromkeys(word for part in inner for word in _describe_hint(part)))
    if origin is Literal:
        return [f"“{word}”" for word in inner]
    if origin is tuple:
        return ["(" + ", ".join(_describe_hint(part)[0] for part in inner) + ")"]
    if origin is collections.abc.Iterable:
        return ["a list of " + " or ".join(_describe_hint(inner[0]))]
    if origin is collections.abc.Callable:
        return ["a function"]
    if origin is os.PathLike:
        return ["a path"]
    return [WORDS.get(hint, "None" if hint is type(None) else f"a {getattr(hint, '__name__', hint)}")]


def _short(value: Any) -> str:
    try:
        text = repr(value)
    except Exception:
        text = type(value).__name__
    text = " ".join(text.split())
    return text if len(text) <= 40 else f"{text[:40]}…"
