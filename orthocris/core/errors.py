"""The tree of errors: each says what is wrong, where, and what to do, under a stable code."""

from __future__ import annotations

from collections.abc import Callable


class OrthocrisError(Exception):
    """Anything the program refuses to do, told so that a person can mend it.

    Parameters
    ----------
    message:
        What came and why it cannot be used, in one sentence.
    code:
        A stable word for programs, such as ``negative_count``.
    field:
        The name of the input at fault, or None when it is no single one.
    fix:
        What to do about it, in one sentence.

    `more` holds the other faults of the same form, where several were found.
    """

    default_code = "error"
    more: tuple[OrthocrisError, ...] = ()

    def __init__(
        self, message: str, *, code: str | None = None, field: str | None = None, fix: str = ""
    ) -> None:
        super().__init__(message)
        self.message = message
        self.code = code or self.default_code
        self.field = field
        self.fix = fix


class InputError(OrthocrisError):
    """A value that came from outside breaks a rule of its field."""

    default_code = "bad_input"


def check_all(*checks: Callable[[], None]) -> None:
    """Make checks that do not depend on one another; all their faults are told at once."""
    faults: list[OrthocrisError] = []
    for check in checks:
        try:
            check()
        except InputError as error:
            faults += (error, *error.more)
    if faults:
        faults[0].more = tuple(faults[1:])
        raise faults[0]


class ObservationError(InputError):
    """One observation cannot be used; `index` is its place in the sequence given."""

    default_code = "bad_observation"

    def __init__(  # with defaults, as what is sent between processes is made from its message
        self,
        message: str,
        *,
        index: int = -1,
        code: str | None = None,
        field: str | None = None,
        fix: str = "",
    ) -> None:
        super().__init__(message, code=code, field=field, fix=fix)
        self.index = index


class NotFoundError(OrthocrisError):
    """What was asked for does not exist."""

    default_code = "not_found"


class ConflictError(OrthocrisError):
    """The request is sound but does not fit the state the trial is in."""

    default_code = "conflict"


class ChangedElsewhereError(OrthocrisError):
    """What is to be changed was changed by somebody else since it was read."""

    default_code = "changed_elsewhere"


class NotAdmittedError(OrthocrisError):
    """Whoever asks was not let in."""

    default_code = "not_admitted"


class TooManyError(OrthocrisError):
    """It was tried too often; the message says how long to wait."""

    default_code = "too_many"


class NetworkError(OrthocrisError):
    """The home network cannot be used as it is asked for."""

    default_code = "network"


def bad_package(
    what: str,
    fix: str = "Choose the file as it was saved; if it is, save it anew where it comes from.",
) -> InputError:
    """Return why tables that came from elsewhere cannot be taken."""
    return InputError(what, code="bad_bundle", field="file", fix=fix)
