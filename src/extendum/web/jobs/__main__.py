"""The process of one job."""

import os
import sys

import django

if __name__ == "__main__":
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "extendum.web.settings")
    django.setup()
    from extendum.web.jobs.work import run

    run(int(sys.argv[1]))
