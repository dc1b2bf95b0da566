"""Numbers as they are spelled when they are spoken."""

from __future__ import annotations

_SMALL = [
    *("zero", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine"),
    *("ten", "eleven", "twelve", "thirteen", "fourteen", "fifteen", "sixteen", "seventeen", "eighteen", "nineteen"),
]
_TENS = ["twenty", "thirty", "forty", "fifty", "sixty", "seventy", "eighty", "ninety"]


def number_words(n: int) -> str:
    """A whole number from 0 to 999,999 spelled out, without 'and': 35 -> 'thirty five'."""
    if n < 20:
        return _SMALL[n]
    if n < 100:
        return _TENS[n // 10 - 2] + (f" {_SMALL[n % 10]}" if n % 10 else "")
    unit, name = (100, "hundred") if n < 1000 else (1000, "thousand")
    rest = f" {number_words(n % unit)}" if n % unit else ""
    return f"{number_words(n // unit)} {name}{rest}"
