"""The process of one job."""

import os
import sys
import threading

import django

if __name__ == "__main__":
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "extendum.web.settings")
    django.setup()
    from extendum.web.jobs.work import keep_heard, run

    threading.Thread(target=keep_heard, args=(int(sys.argv[1]),), daemon=True).start()
    run(int(sys.argv[1]))
