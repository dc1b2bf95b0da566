"""Listening from any point of a class: what begins to sound in the next seconds, in the voice of the class."""

from __future__ import annotations

import io
import json
from functools import lru_cache

import soundfile
from django.http import HttpResponse
from django.views.decorators.http import require_safe

from extendum.core.model.limits import whole_number
from extendum.core.outputs.sound import Speaker, excerpt
from extendum.core.sound.speech import RATE, Samples
from extendum.voice import stand_in
from extendum.web.classes import store as classes
from extendum.web.classes.access import own_class
from extendum.web.classes.page import compiled
from extendum.web.shared.asked import Asked
from extendum.web.voices import store

#: So much is heard at a time.
MOST_MS = 15_000


@require_safe
def hear(request: Asked, pk: int) -> HttpResponse:
    """Sound from ?from= milliseconds, or from where an ?item= begins, for ?for= milliseconds.

    The header says from when to when it is, how long the class lasts, and which item begins when.
    """
    of = own_class(request, pk)
    script, timeline = classes.script_of(of.present), compiled(bytes(of.present.document))
    item = request.GET.get("item", "")
    starts = next((one.start_s * 1000 for one in timeline.segments if one.item == item), 0)
    from_ms = min(timeline.length_s * 1000, whole_number(request.GET.get("from", "")) or starts)
    to_ms = min(timeline.length_s * 1000, from_ms + min(MOST_MS, whole_number(request.GET.get("for", "")) or MOST_MS))
    speaker = store.speaker(script, request.user, _stand_in())
    heard = excerpt(timeline, script.style.words_per_minute, speaker, from_ms, to_ms)
    out = io.BytesIO()
    soundfile.write(out, heard, RATE, "PCM_16", format="FLAC")
    names = {one.id: one.name for one in script.items()}
    inside = [one for one in timeline.segments if one.end_s * 1000 > from_ms and one.start_s * 1000 < to_ms]
    facts = {
        "from": from_ms,
        "to": to_ms,
        "whole": timeline.length_s * 1000,
        "items": [(one.start_s * 1000, one.item, names.get(one.item, "")) for one in inside],
    }
    answer = HttpResponse(out.getvalue(), content_type="audio/flac")
    answer["X-Heard"] = json.dumps(facts)
    answer["Cache-Control"] = "no-store"
    return answer


@lru_cache(maxsize=1)
def _stand_in() -> Speaker | None:
    """The machine's voice, which says again at once what it has said lately."""
    voice = stand_in()
    if voice is None:
        return None

    @lru_cache(maxsize=200)
    def say(text: str, rate: int) -> Samples:
        return voice(text, rate)

    return say
