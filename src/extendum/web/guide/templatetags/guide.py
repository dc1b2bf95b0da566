"""What every screen says of itself: `{% help "desk" %}` is its dialog, opened by ? and by the Help button."""

from django import template

from extendum.web.guide.texts import Screen, guide

register = template.Library()


@register.inclusion_tag("guide/_help.html", takes_context=True)
def help(context: template.Context, screen: str) -> dict[str, object]:  # noqa: A001: the name in templates
    """The help of a screen; KeyError when it has none."""
    shown: Screen = guide().screens[screen]
    return {"screen": shown, "wide": len(shown.keys) > 10, "csrf_token": context.get("csrf_token")}
