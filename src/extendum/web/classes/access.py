"""Who may see what: everything is looked up through its owner, and another's is not found."""

from django.shortcuts import get_object_or_404

from extendum.web.classes.models import StretchClass
from extendum.web.shared.asked import Asked


def own_class(request: Asked, pk: int) -> StretchClass:
    """The user's own class with this key; 404 for any other."""
    return get_object_or_404(StretchClass.objects.select_related("head", "owner"), pk=pk, owner=request.user)
