"""Faults in what a person gave us. The message is one sentence that can be shown as it is."""


class InputError(ValueError):
    """A file or a value cannot be used; the message names it and the way out."""


class DocumentError(InputError):
    """A wrinkle file cannot be used."""


class MediaError(InputError):
    """A clip or a picture cannot be used."""


class Cancelled(Exception):  # noqa: N818 - not a fault: somebody asked to stop
    """Long work was stopped on request; nothing was left behind."""
