"""Whether anything on a screen lies over something else, or leaves the window: boxes of texts and controls compared."""

from pathlib import Path

#: The sizes that every screen is looked at in: phones upright and lying, tablets, laptops, large screens.
SIZES = [
    (320, 640),
    (390, 844),
    (844, 390),
    (768, 1024),
    (820, 1180),
    (1024, 768),
    (1280, 720),
    (1280, 800),
    (1440, 900),
    (1920, 1080),
    (2560, 1440),
]

#: For what is laid out like something that is looked at in all of them.
FEW = [(320, 640), (820, 1180), (1280, 800)]

FAULTS = Path(__file__).with_name("boxes.js").read_text("utf-8")


def faults(page, root="main", settle=None, sizes=SIZES):
    """What lies over something or leaves the window, at these sizes; each with the size."""
    found = []
    page.evaluate("() => document.fullscreenElement && document.exitFullscreen()")  # that size is not to be set
    for width, height in sizes:
        page.set_viewport_size({"width": width, "height": height})
        if settle:
            settle(page)
        else:
            page.evaluate("() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)))")
        found += [f"{width}x{height} {one}" for one in page.evaluate(FAULTS, root)]
    return found
