"""What needs an event loop of its own runs in a thread of its own: Playwright keeps one in the thread of the tests."""

from concurrent.futures import ThreadPoolExecutor


def apart(program):
    """What a program gives in a thread of its own."""
    with ThreadPoolExecutor(1) as one:
        return one.submit(program).result()
