"""What every screen says of itself: `{% help "desk" %}` is its dialog, opened by ? and by the Help button."""

from django import template
from django.utils.html import format_html
from django.utils.safestring import SafeString

from extendum.web.guide.texts import Screen, guide

register = template.Library()


@register.inclusion_tag("guide/_help.html", takes_context=True)
def help(context: template.Context, screen: str) -> dict[str, object]:  # noqa: A001: the name in templates
    """The help of a screen; KeyError when it has none."""
    shown: Screen = guide().screens[screen]
    return {"screen": shown, "wide": len(shown.keys) > 10, "csrf_token": context.get("csrf_token")}


@register.simple_tag
def cap(screen: str, deed: str) -> SafeString:
    """The cap of the key that does something on a screen; KeyError where no key does."""
    found = {does: pressed for pressed, _, does in reversed(guide().screens[screen].map)}
    return format_html("<kbd>{}</kbd>", found[deed])
