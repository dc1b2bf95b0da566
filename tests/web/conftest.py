"""Two instructors, one with a class."""

import re

import pytest
from django.contrib.auth import get_user_model
from django.test import Client

from extendum.core.edit import script_edits as edit
from extendum.formats.library import shipped_move
from extendum.web.classes import store


class Reader(Client):
    """Reads pages as a browser does: where a line of a template is broken, there is a space."""

    def request(self, **request):
        answer = super().request(**request)
        if not answer.streaming and answer.get("Content-Type", "").startswith("text/html"):
            answer.content = re.sub(rb"\n {2,}", b" ", answer.content)
        return answer


@pytest.fixture
def client():
    return Reader()


@pytest.fixture
def owner(db):
    return get_user_model().objects.create_user("ada", password="a long password")


@pytest.fixture
def stranger(db):
    return get_user_model().objects.create_user("bo", password="a long password")


@pytest.fixture
def stretch_class(owner):
    script = edit.new_script("Evening class", 300)
    for key in ("calf-lean", "shoulder-circles"):
        script, _ = edit.add_move(script, shipped_move(key))
    return store.create(owner, script, "Made")


@pytest.fixture
def other_client(stranger):
    client = Reader()
    client.force_login(stranger)
    return client


@pytest.fixture
def asking(client, owner):
    client.force_login(owner)
    return client
