"""The Readings screen: a class read in, text by text, by a microphone or from a recording, and taken into the class."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

from django.db.models import F
from django.http import FileResponse, Http404, HttpRequest, HttpResponse, HttpResponseRedirect, JsonResponse
from django.shortcuts import get_object_or_404, render
from django.urls import reverse
from django.views.decorators.http import require_POST, require_safe

from extendum.core.model.errors import ExtendumError, RefusedError
from extendum.core.model.script import Script
from extendum.core.model.timeline import CueKind, clock
from extendum.core.model.voice import Length
from extendum.core.outputs.readings import ToRead, fitted_rate, to_read
from extendum.core.timing.compile import compile_script
from extendum.core.timing.layout import length_of
from extendum.formats.recordings import load
from extendum.web.classes import store as classes
from extendum.web.classes.access import own_class
from extendum.web.classes.models import StretchClass
from extendum.web.shared.asked import Asked
from extendum.web.shared.forms import whole
from extendum.web.voices import store
from extendum.web.voices.models import Reading, Voice

#: What a text is, beside the name of its move.
_KINDS = {
    CueKind.TALK: "talk",
    CueKind.DEMONSTRATION: "while showing it",
    CueKind.MOVING: "while moving",
    CueKind.THERE: "once there",
    CueKind.SHORT: "later on",
    CueKind.SWITCH: "at the switch",
    CueKind.RELEASE: "release",
    CueKind.COUNT: "count",
    CueKind.HALFWAY: "call",
    CueKind.TIME_LEFT: "call",
}


#: The voice that read last comes first, one that has read nothing last, on every database.
_LAST = F("readings__read_at").desc(nulls_last=True)


@dataclass(frozen=True, slots=True)
class Page:
    """A class as a voice reads it: its texts with what was read of each up to now."""

    of: StretchClass
    voice: Voice | None
    script: Script
    texts: tuple[ToRead, ...]
    readings: dict[str, Reading]

    @classmethod
    def of_class(cls, of: StretchClass, voice: Voice | None) -> Page:
        """As it would be with everything that the voice has read."""
        script = store.spoken(classes.script_of(of.present), voice)
        rows = voice.readings.all() if voice else ()
        return cls(of, voice, script, to_read(script, compile_script(script)), {one.known_by: one for one in rows})

    def reading(self, text: ToRead) -> Reading | None:
        """What was read of a text."""
        return self.readings.get(store.known_by(text.text))

    @property
    def behind(self) -> bool:
        """Whether the class would change if it took in what was read."""
        return self.script != classes.script_of(self.of.present)

    def counts(self) -> dict[str, object]:
        """How many there are, how many of them are read, and what that makes of the class, in words."""
        read = [one for text in self.texts if (one := self.reading(text))]
        others = sum(one.read_for_id != self.of.pk for one in read)
        long = sum(not one.fits for one in self.texts)
        rate = fitted_rate(Length(one.text, one.ms) for one in self.readings.values())
        told = f"{len(self.texts)} texts, {len(read)} read" + (f", {others} from other classes" if others else "")
        length, was = (clock(length_of(one)) for one in (self.script, classes.script_of(self.of.present)))
        lasts = f"the class still lasts {length}" if length == was else f"the class lasts {length} instead of {was}"
        return {
            "told": f"{told}.",
            "long": f"{long} longer than the room for {'it' if long == 1 else 'them'}." if long else "",
            "rate": f"The rest is guessed from these, mostly to within {rate.off_percent:.0f} %." if rate else "",
            "takes": f"Every text takes as long as you took; {lasts}.",
            "behind": self.behind,
        }

    def rows(self) -> list[dict[str, object]]:
        """Every text, as the page knows it."""
        names = {item.id: item.name for item in self.script.items()}
        return [self._row(n, text, names) for n, text in enumerate(self.texts)]

    def _row(self, n: int, text: ToRead, names: dict[str, str]) -> dict[str, object]:
        reading = self.reading(text)
        return {
            "n": n,
            "text": text.text,
            "of": " · ".join(filter(None, (_KINDS.get(text.kind, ""), names.get(text.item, "")))),
            "times": text.times,
            "room": text.room_ms,
            "ms": text.read_ms if reading else None,
            "fits": text.fits,
            "sound": store.address_of(reading) if reading else "",
        }


def own_voice(request: HttpRequest, pk: int) -> Voice:
    """The user's own voice with this key; 404 for any other."""
    return get_object_or_404(Voice, pk=pk, owner=request.user)


def _chosen(request: Asked, of: StretchClass) -> Voice | None:
    """The voice that is asked for, that of the class, or the one that read last."""
    asked = request.GET.get("voice", "")
    if asked.isdecimal():
        return own_voice(request, int(asked))
    own = store.voice_for(classes.script_of(of.present), request.user)
    return own or Voice.objects.filter(owner=request.user).order_by(_LAST, "-made_at").first()


@require_safe
def readings(request: Asked, pk: int) -> HttpResponse:
    """The class to be read in; ?voice= says by whom."""
    of = own_class(request, pk)
    return readings_page(request, of, _chosen(request, of))


def readings_page(
    request: Asked, of: StretchClass, voice: Voice | None, status: int = 200, **facts: object
) -> HttpResponse:
    """The class as a voice reads it, with what was refused."""
    page = Page.of_class(of, voice)
    context = {
        "class": of,
        "voice": voice,
        "voices": Voice.objects.filter(owner=request.user),
        "rows": page.rows(),
        "counts": page.counts(),
        "spoken": classes.script_of(of.present).style.voice,
        **facts,
    }
    return render(request, "voices/readings.html", context, status=status)


@require_POST
def new_voice(request: Asked, pk: int) -> HttpResponse:
    """A voice by its name; one that is there already is chosen."""
    of = own_class(request, pk)
    try:
        voice = store.named(request.user, request.POST.get("name", ""))
    except ExtendumError as error:
        return readings_page(
            request, of, _chosen(request, of), 422, refused=str(error), typed=request.POST.get("name", "")
        )
    return HttpResponseRedirect(f"{reverse('readings', args=[pk])}?voice={voice.pk}")


@require_POST
def keep_reading(request: Asked, pk: int, voice: int) -> JsonResponse:
    """Keep what was read of one text: cleaned, with what should be known of the recording."""
    from extendum.core.sound.clean import cleaned  # takes a second to load: only where it is wanted

    of, own = own_class(request, pk), own_voice(request, voice)
    text, sound = request.POST.get("text", ""), request.FILES.get("sound")
    try:
        if not text.strip() or sound is None:
            raise RefusedError("reading", "a text and its sound", "one without the other")
        recorded = load(sound)
        clean = cleaned(recorded)
        store.keep(own, text, recorded, clean, of)
    except ExtendumError as error:
        return JsonResponse({"refused": str(error)}, status=422)
    page = Page.of_class(of, own)
    row = next((row for row in page.rows() if store.known_by(str(row["text"])) == store.known_by(text)), None)
    return JsonResponse({"row": row, "counts": page.counts(), "told": clean.told})


@require_POST
def forget_reading(request: Asked, pk: int, voice: int) -> JsonResponse:
    """Take away what was read of one text."""
    of, own = own_class(request, pk), own_voice(request, voice)
    found = Reading.objects.filter(voice=own, known_by=store.known_by(request.POST.get("text", ""))).first()
    if found:
        store.forget(found)
    page = Page.of_class(of, own)
    return JsonResponse({"rows": page.rows(), "counts": page.counts()})


@require_POST
def take_in(request: Asked, pk: int) -> HttpResponse:
    """The class speaks in a voice from now on, or in none; one step, as every change of a class."""
    of, asked = own_class(request, pk), request.POST.get("voice", "")
    voice = own_voice(request, int(asked)) if asked.isdecimal() else None
    label = f"Spoken in the voice of {voice.name}" if voice else "Spoken in no voice of its own"
    try:
        classes.change(of, whole(request.POST, "stamp"), label, lambda script: store.spoken(script, voice))
    except classes.StaleEditError:
        told = "The class was changed in another window. Look at it as it is now, and take the readings in again."
        return readings_page(request, own_class(request, pk), voice, 409, refused=told)
    except ExtendumError as error:
        return readings_page(request, of, voice, 422, refused=str(error))
    return HttpResponseRedirect(reverse("desk", args=[pk]))


@require_safe
def sound(request: Asked, voice: int, reading: int) -> FileResponse:
    """A reading as it is heard in a class."""
    one = get_object_or_404(Reading, pk=reading, voice=own_voice(request, voice))
    path: Path = store.folder_of(one.voice) / f"{one.file}.flac"
    if not path.is_file():
        raise Http404("its sound is not there any more")
    answer = FileResponse(path.open("rb"), content_type="audio/flac")
    answer["Cache-Control"] = "private, max-age=31536000, immutable"  # its address changes with what was read
    return answer
