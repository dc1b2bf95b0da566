"""The Logbook, and that it keeps a session of every run."""

from django.apps import AppConfig


class RecordsConfig(AppConfig):
    name = "extendum.web.records"

    def ready(self) -> None:
        from extendum.web.records.sessions import begin
        from extendum.web.teach.signals import run_begun

        run_begun.connect(begin, dispatch_uid="a session of every run")
