"""Two instructors, one with a class."""

import pytest
from django.contrib.auth import get_user_model
from django.test import Client

from extendum.core.edit import script_edits as edit
from extendum.formats.library import shipped_move
from extendum.web.classes import store


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
    client = Client()
    client.force_login(stranger)
    return client


@pytest.fixture
def asking(client, owner):
    client.force_login(owner)
    return client
