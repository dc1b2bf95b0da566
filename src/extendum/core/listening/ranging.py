"""Ends of the range: words that circle the neck, lock a joint, or load a joint where it can go no further."""

from __future__ import annotations

from extendum.core.listening.classes import CLASSES
from extendum.core.listening.phrases import Listener, Phrase

NECK_CIRCLES = Listener(
    (
        Phrase(
            "circles the neck",
            (
                "full|whole|complete|big|large neck|head circle|roll",
                "circle|roll|swing ?your|the head|neck ?all ?the ?way round|around|back|in",
                "circle|circles with ?your|the head|neck|chin",
                "head|neck .. all the way round|around",
                "drop|let|tip|throw|roll ?your|the head ?fall ?drop ?all ?right back $",
                "drop|throw ?your|the head back|backwards",
            ),
            ("Roll your head all the way round.", "Draw full neck circles.", "Drop the head back."),
            (
                "Roll your chin from one shoulder to the other.",
                "Bring your head back to the middle.",
                "No head circles.",
            ),
            unless=("half circle", "to the middle|centre", "head back up|to|on|into|over|against"),
        ),
    ),
    CLASSES,
)
LOCKED = Listener(
    (
        Phrase(
            "locks a joint",
            (
                "lock|locking ?out ?your|the|both|that|{side} ?{side} knee|elbow|joint|leg|arm",
                "knee|elbow|leg|arm ?be|stay|well|firmly|fully|completely lock|locked",
                "push|press|pull ?your|the|both|{side} knee|elbow back|backwards ?as|hard|all|$",
                "hyperextend|overextend|overstretch",
                "straighten .. until|till .. lock|click|snap",
            ),
            ("Lock your knees.", "Push the knee back.", "Elbows locked."),
            ("Don't lock your knees.", "Knees straight, never locked.", "Push your hips back."),
            unless=("not|never|no|without|un lock", "lock .. finger|hand|thumb|eye|gaze|door"),
        ),
    ),
    CLASSES,
)
END_LOADED = Listener(
    (
        Phrase(
            "loads the end of the range",
            (
                "plough|plow",
                "shoulder|head|hand stand",
                "shoulderstand|headstand|handstand",
                "foot|toe|leg .. over|behind|beyond ?your|the head",
                "weight on|onto ?your|the|back|of neck|head",
                "roll|come up|back onto your neck|shoulder ?blade ?and ?neck",
                "sit back|down between ?your|the heel|foot|ankle",
                "hang|drop|sink|lean ?all ?your ?the ?whole ?body ?weight in|into ?your|the joint|knee|elbow|wrist",
                "full splits|split",
                "bounce|pulse .. with ?the|a weight|dumbbell",
                "let .. partner|somebody|neighbour .. push|press|lean|sit",
                "partner|neighbour|somebody|i .. push|press|lean|sit ?on|down|your .. further|deeper|down|leg|back",
            ),
            ("Up into the plough.", "Bring your feet over behind your head.", "Sit down between your heels."),
            ("Lift your arms over your head.", "Rest your weight on your forearms."),
            unless=("arm|hand|stick|strap|elbow .. over|behind|beyond ?your|the head",),
        ),
    ),
    CLASSES,
)
circles_neck, locks_joints, loads_the_end = NECK_CIRCLES, LOCKED, END_LOADED
