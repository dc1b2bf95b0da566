"""Who may see what: everything is looked up through its owner, and another's is not found."""

from django.contrib.auth.models import AbstractBaseUser
from django.http import HttpRequest
from django.shortcuts import get_object_or_404

from extendum.web.classes import store
from extendum.web.classes.forms import Own
from extendum.web.classes.models import StretchClass
from extendum.web.library.store import library_of


def own_class(request: HttpRequest, pk: int) -> StretchClass:
    """The asker's class with this key; 404 for anybody else's and for none."""
    return get_object_or_404(StretchClass.objects.select_related("head", "owner"), pk=pk, owner=request.user)


def own_of(owner: AbstractBaseUser) -> Own:
    """What an instructor may choose from."""
    return Own(store.styles_of(owner), store.audiences_of(owner), library_of(owner))
