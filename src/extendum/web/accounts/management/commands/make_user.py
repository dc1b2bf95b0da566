"""Makes an account, or gives one that there is a new password."""

from getpass import getpass
from typing import Any

from django.contrib.auth import get_user_model
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.management.base import BaseCommand, CommandError, CommandParser


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("name", nargs="?", default="", help="what the account is called")

    def handle(self, *args: Any, name: str, **options: Any) -> None:
        users = get_user_model()
        if not name:
            raise CommandError("Name the account: make user NAME=name")
        user = users.objects.filter(username=name).first() or users(username=name)
        password = getpass(f"Password for {name}: ")
        try:
            users.username_validator(name)
            validate_password(password, user)
        except ValidationError as error:
            raise CommandError(" ".join(error.messages)) from None
        if password != getpass("Once more: "):
            raise CommandError("The two passwords differ; nothing was changed.")
        user.set_password(password)
        user.save()
        self.stdout.write(f"{name} can sign in.")
