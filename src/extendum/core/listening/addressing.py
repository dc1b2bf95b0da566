"""Whom words speak to: people in a room, viewers of a recording, or people at home."""

from __future__ import annotations

import re
from functools import lru_cache

from extendum.core.listening.classes import CLASSES
from extendum.core.listening.phrases import Listener, Phrase

ROOM = (
    Phrase(
        "questions in the room",
        (
            "any question",
            "ask|tell|call|find|come_to|come_and_see me",
            "let me know|see|hear",
            "raise|put up your hand ?if",
            "hand up if|who",
            "can everybody|you all see|hear",
            "wave|shout|nod|smile at me",
            "give me ?a sign|wave|nod|shout",
            "wave|shout|speak up if|when",
            "show me|us your|how",
            "who|anybody .. new|here|first time",
            "newcomer|latecomer|beginner .. today|here|among",
            "any|are_there ?any newcomer|latecomer|beginner|regular|injury|volunteer|body|birthday",
            "have everybody|you_all|anybody|all_of_you .. ?",
            "over there",
            "sign in|up here|at|on|by",
            "come|move closer|forward to|a bit|so",
            "come|move .. further|up|closer ?to the front|middle|back",
            "stay behind|after ?if|for|class",
        ),
        ("Any questions?", "Let me know if it hurts."),
        ("Ask your doctor.",),
        denied=True,
    ),
    Phrase(
        "a place in a room",
        (
            "in this|the room|hall|studio|gym",
            "those .. at the back|front",
            "you at the back|front",
            "everybody at the back|front",
            "by|near|next to the window|door|radiator",
            "your neighbour|partner",
            "person next to you",
            "you there",
            "^ come closer",
            "front|back|second|first|last|middle row",
            "row|line ?of mat",
            "at the back|front , ",
            "those|everybody|who .. late|early",
            "late",
            "on your|the way out|home",
            "spare|extra mat|chair|block|strap|blanket",
            "in the corner|cupboard|hall|foyer",
            "in pair|pairs",
            "find|with|grab|take|choose|turn to|face a|your|another partner|neighbour|person",
            "changing|locker|cloak room",
            "reception|lobby|corridor|cupboard|storeroom|car park|register|studio",
            "roll up your mat ?and put|leave|bring",
            "leave|put|stack|bring|return ?back ?your|the mat|chair|block|strap ?back in|on|by|at|to the",
            "everybody .. to ?my|the left|right side",
            "circle round me",
        ),
        ("You there by the window, heel a little lower.",),
        ("Face the window if you like.",),
        unless=("if you", "or the wall", "late on|that|one|if", "too|it be late"),
        denied=True,
    ),
    Phrase(
        "the teacher walks about",
        (
            "i will|can|be|go .. come|walk|look|go ?round|over|by|along|to|about|past",
            "i come|walk round|over|by|past",
            "i stay|be .. around|after",
            "i will stay",
            "after class",
            "have you all",
            "so many of you",
            "nice|lovely|good to have|see you .. here|all",
        ),
        ("I will come by and put a block under your hands.",),
        ("I will show you the easier way.",),
        denied=True,
    ),
    Phrase(
        "a time that is now",
        (
            "good morning|afternoon|evening",
            "see you ?all ?again ?next|on|tomorrow|soon|later|@day",
            "coffee|tea|biscuit after|afterwards|next",
            "welcome ?back to our|the @day",
            "lovely|good|great turnout",
            "how be everybody|you|we all|today|this|feeling|doing",
            "thank .. come|coming ?out ?tonight|today|along",
            "same place|time|hour ... next|@day",
            "until next week|time|@day",
            "next week|@day",
            "today be",
            "this morning|afternoon|evening",
            "tonight",
            "rest of your|the day|evening|weekend|@day",
            "have a .. evening|day|weekend|@day|week",
            "on @day",
        ),
        ("See you next week.", "Have a lovely rest of your Sunday."),
        ("Come back whenever you like.",),
        unless=("next video", "whenever|wherever"),
        denied=True,
    ),
)
_SPEAKS_TO_ROOM = Listener(ROOM, CLASSES)
#: Praise or thanks with somebody's name: ``Very good, Anna.``
_NAMED = re.compile(r"(?:good|great|lovely|nice|better|perfect|it|you|thanks|well done), ([A-Z][a-z]+)[.,!]")
_NO_NAMES = frozenset({"Everybody", "Everyone", "All", "And", "Now", "Then", "Class", "Team", "Friends", "Folks"})


@lru_cache(maxsize=8192)
def speaks_to_room(text: str) -> tuple[str, ...]:
    """Where people in a room are spoken to, each as written."""
    named = (match.group() for match in _NAMED.finditer(text) if match.group(1) not in _NO_NAMES)
    return tuple(dict.fromkeys((*_SPEAKS_TO_ROOM(text), *named)))


CAMERA = (
    Phrase(
        "the recording",
        (
            "pause|rewind|replay|skip|watch .. video|recording|me",
            "pause me",
            "press|hit|click|tap|use|find ?the pause|play|stop",
            "hit|press|click|tap|use pause|play|stop|rewind|record|mute|like|subscribe|bell|replay",
            "skip ahead|forward|back|to",
            "fast forward|rewind|replay|playlist|timestamp|thumbnail|stream|livestream|upload",
            "your|the screen|monitor|tablet|laptop|volume|device|headphone|speaker|connection",
            "under|below|above ?the|this video|recording|player",
            "turn up|down ?your|the volume",
            "my|this|our|the channel|vlog|podcast|video|recording|playlist|app",
            "off|on|behind|towards|into|to ?the camera",
            "chapter|part one|two|three|four of|in",
            "this|the|next|my|another video|episode|recording|channel",
            "on .. screen",
            "watch this|from|along",
            "watch|watching .. on ?a|your|the phone|tv|television|tablet|computer|laptop|mobile|big",
            "wherever .. watch|watching",
        ),
        ("Pause the video whenever you like.", "Hit pause whenever you need it.", "Welcome to my channel."),
        ("Watch your knees.", "Pause whenever you like."),
        denied=True,
        unless=("watch .. knee|foot|hand|step|breath",),
    ),
    Phrase(
        "what viewers press",
        (
            "subscribe",
            "like and subscribe|share|comment",
            "hit|press|click|tap .. bell|button|like|link",
            "leave .. comment",
            "comment ?below",
            "in the comment|description",
            "link ... below|description|bio",
            "share this|the .. friend",
            "give .. thumb up",
        ),
        ("Like and subscribe.", "The link to the sheet is right below."),
        ("As you like, and breathe.",),
        denied=True,
    ),
)
speaks_to_camera = Listener(CAMERA, CLASSES)

HOME = (
    Phrase(
        "a dose for home",
        (
            "@practises:b ... @often",
            "@often , .. second|minute|times|time|rep|stretch",
            "homework",
            "time|times a day|week",
            "minute|second .. @often",
            "couple of times a day|week",
            "once|twice|time|times|minute|second|rep|few ?an ?a ?per hour|day|week|morning|evening|month",
            "at your desk|home|work|office .. @practises|this|it",
            "@practises:b .. at your desk|home|work|office",
            "@count of .. @often",
            "@often .. , and",
            "@often , @practises:b",
            "before|after|in your bed|breakfast|shower|run|training|match|shift .. @practises:b",
            "@practises:b .. before|after|in your|every|each bed|breakfast|shower|run|training|match|shift|meal",
            "until we meet|next time|class|week .. @practises:b",
            "@practises:b .. until|till|by next|we|the next|time|meet",
            "@practises:b .. whenever|while|every_time you|your @chores",
            "time|times a week|day ?be ?ideal|enough|good",
        ),
        ("Do this a couple of times a day.", "Every morning, thirty seconds on each calf."),
        ("I do this every day for my living.", "Thanks for coming every week."),
        unless=(
            "at home , in|on|find|you|here",
            "handout",
            "i|we ... @often",
            "i have|teach",
            "come|meet|see .. @often",
            "thank .. @often",
        ),
    ),
)
gives_home_dose = Listener(HOME, CLASSES)

ROLLING = (
    Phrase(
        "a prop that rolls, folds or slips",
        (
            "@rolls ... @accepts",
            "any|whatever|even ... @rolls",
            "on|with|onto|use|grab|take|put|stand .. castor|swivel|wobbly|loose|rug|slippery",
            "chair|stool|seat .. on|with castor|wheel",
            "chair|stool .. roll|spin ... @accepts",
            "office|desk chair .. do|fine|ok",
            "@rolls .. @accepts",
            "chair|stool|seat ?that ?which have|be_on|on|with ?a ?its|their wheel|castor|caster",
            "swivel chair|stool|seat",
            "@accepts , .. @rolls",
            "@accepts .. on|with|to .. @rolls",
            "or|even|also|use|try|take|grab|bring|stand|sit|lean|hold ?on ?to ?on ?with ?your ?a ?an ?the @rolls",
            "sock|stocking on|over|across ?the ?smooth|bare|polished|wooden parquet|laminate|tile|wood|floor",
            "in ?your|just sock|stocking .. do|fine|slide|work",
        ),
        ("Any office chair will do, wheels or not.", "Put your back foot on a loose rug."),
        (
            "If your chair spins or rolls, go and swap it.",
            "Without a strap, use a scarf.",
            "Put a rolled towel under your heels.",
        ),
        unless=("@refuses ... @rolls", "@rolls ... swap|outside|instead|away|change|over|lock|another"),
    ),
)
accepts_rolling = Listener(ROLLING, CLASSES)
