"""Accounts for serving a network: made at the command line, with a password that is asked for twice."""

import pytest
from django.conf import settings
from django.contrib.auth import get_user_model
from django.core.management import CommandError, call_command
from django.urls import reverse

from extendum.web.accounts.management.commands import make_user


@pytest.mark.django_db
def test_an_account_is_made_and_given_a_new_password(monkeypatch, capsys):
    def typed(*answers):
        some = iter(answers)
        monkeypatch.setattr(make_user, "getpass", lambda asked: next(some))

    typed("short", "short")
    with pytest.raises(CommandError, match="too short"):
        call_command("make_user", "ada")
    typed("a long passphrase 7", "another 7 of them")
    with pytest.raises(CommandError, match="nothing was changed"):
        call_command("make_user", "ada")
    assert not get_user_model().objects.exists()
    for password in ("a long passphrase 7", "a newer passphrase 8"):
        typed(password, password)
        call_command("make_user", "ada")
        assert get_user_model().objects.get().check_password(password)
    with pytest.raises(CommandError, match="Name the account"):
        call_command("make_user")


def test_after_some_wrong_passwords_nothing_is_answered_for_a_while(client, owner):
    page = reverse("sign-in")

    def sign_in(name, password):
        return client.post(page, {"username": name, "password": password})

    for _ in range(settings.AXES_FAILURE_LIMIT - 1):
        assert sign_in("ada", "wrong").status_code == 200
    locked = sign_in("ada", "wrong")
    assert locked.status_code == 429
    assert "15 minutes" in locked.content.decode()
    assert sign_in("ada", "a long password").status_code == 429
    assert sign_in("bo", "wrong").status_code == 200
