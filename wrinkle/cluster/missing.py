"""Whether the package is there with which machines work together: it is an extra of ours."""

from __future__ import annotations

from importlib.util import find_spec

from wrinkle.core.errors import InputError


def check_installed() -> None:
    """Looks whether others can be asked at all.

    Raises:
        InputError: the package is not installed; says how it is.
    """
    if find_spec("distributed") is None:
        raise InputError(
            "Working with other machines needs the package 'distributed'; './run workers --help' "
            "installs it once."
        )
