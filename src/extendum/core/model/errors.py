"""What the core says when it cannot do what was asked."""

from __future__ import annotations


class ExtendumError(Exception):
    """Base of every error that is meant to be read by the person who asked."""


class RefusedError(ExtendumError):
    """A value that breaks a rule: where it stands, what must hold, what was found.

    The path grows from the inside out while the error travels up (``within``), so that a
    bad file says ``sections[2].groups[0].items[4].dose.seconds.most``.
    """

    def __init__(self, path: str, must: str, found: object) -> None:
        self.path, self.must, self.found = path, must, found
        super().__init__(path, must, found)

    def within(self, outer: str) -> RefusedError:
        """The same refusal seen from one level further out."""
        joint = "" if not self.path or self.path.startswith("[") else "."
        return RefusedError(f"{outer}{joint}{self.path}", self.must, self.found)

    def __str__(self) -> str:
        shown = self.found if isinstance(self.found, str) else repr(self.found)
        shown = shown if len(shown) <= 80 else shown[:77] + "..."
        place = f"{self.path}: " if self.path else ""
        return f"{place}must be {self.must}; found {shown or 'nothing'}"
