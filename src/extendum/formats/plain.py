"""Bytes of a file as text, whatever wrote them."""

from __future__ import annotations

from extendum.core.model.errors import RefusedError

_UTF_16 = (b"\xff\xfe", b"\xfe\xff")


def decoded(raw: str | bytes, largest: int) -> str:
    """The text of a file: UTF-8, UTF-16 where it says so, or what older spreadsheets write.

    RefusedError for what is larger, and for bytes that are no text.
    """
    if len(raw) > largest:
        raise RefusedError("file", f"at most {largest:,} bytes", f"{len(raw):,}")
    text = raw.removeprefix("\ufeff") if isinstance(raw, str) else _of(raw)
    if "\x00" in text:
        raise RefusedError("file", "text", "bytes that are no text")
    return text


def _of(raw: bytes) -> str:
    for encoding in ("utf-16" if raw[:2] in _UTF_16 else "utf-8-sig", "cp1252"):
        try:
            return raw.decode(encoding)
        except UnicodeDecodeError:
            continue
    raise RefusedError("file", "text", "bytes that are no text")
