"""What comes from outside is bounded before it is used: how large, how deep, how many, and how far.

docs/security.md lists them with the place where each holds.
"""

from __future__ import annotations

import re

#: A document or a file that is read in, and a post without an account.
LARGEST_FILE, LARGEST_UNSIGNED = 4_000_000, 1_000_000
#: A request of whoever has an account: a file with what a form has beside it; and its fields.
LARGEST_POST, MOST_FIELDS = 4_500_000, 2000
#: Of what is read in: eight minutes of a microphone, an hour and more of a compressed file.
LARGEST_SOUND = 96_000_000
#: A document's values and the levels of its nesting; digits of a number.
MOST_VALUES, DEEPEST, MOST_DIGITS = 200_000, 32, 18
#: What a class unfolds to: a class of a whole day with 4,000 passes is more than anybody teaches.
MOST_PASSES, MOST_REPS, MOST_SEGMENTS, LONGEST_S = 4000, 40_000, 20_000, 24 * 3600
#: Rows that a form may say it has: targets, props, cautions, options, prompts.
MOST_ROWS = 100
#: Keys of the database's rows.
MOST_KEY = 2**62

_WHOLE = re.compile(r"-?[0-9]{1,18}", re.ASCII)


def whole_number(typed: str, least: int = 0, most: int = MOST_KEY) -> int | None:
    """The whole number that a text is, from least to most; None for any other text, however long or odd it is.

    Only the digits 0 to 9 are digits here: there are others, such as ``²``, that are none to reckon with.
    """
    plain = typed.strip()
    if not _WHOLE.fullmatch(plain):
        return None
    found = int(plain)
    return found if least <= found <= most else None


def well_formed(text: str) -> bool:
    """Whether a text can be written anywhere: it holds no half of a pair of surrogates."""
    return text.isascii() or not any("\ud800" <= letter <= "\udfff" for letter in text)
