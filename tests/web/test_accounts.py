"""Accounts for serving a network: made at the command line, with a password that is asked for twice."""

import pytest
from django.contrib.auth import authenticate
from django.core.management import CommandError, call_command

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
    assert authenticate(username="ada", password="a long passphrase 7") is None
    for password in ("a long passphrase 7", "a newer passphrase 8"):
        typed(password, password)
        call_command("make_user", "ada")
        assert authenticate(username="ada", password=password).username == "ada"
    with pytest.raises(CommandError, match="Name the account"):
        call_command("make_user")
