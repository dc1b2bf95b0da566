"""Words of care: a support to hold, coming up slowly, the usual cautions, whom to ask, the easier option."""

from __future__ import annotations

from extendum.core.listening.classes import CLASSES
from extendum.core.listening.phrases import Listener, Phrase

_SUPPORT = Listener(
    (
        Phrase(
            "a support",
            (
                "@hand|@grips ... @props-up",
                "@props-up ... @hand|@grips",
                "find|keep|rest ?a|one|your ?steady|good|firm support|wall|rail|something",
                "hold on",
                "sit ?down for|instead",
                "something to hold|steady",
            ),
            (
                "Keep a hand on the chair.",
                "Find a windowsill for one hand.",
                "The back of a sofa under the other hand.",
            ),
            ("Take hold of your ankle.", "Rest the toes on the chair behind you."),
            unless=("rest|put|place ?your|the|both toe|foot|heel|knee|calf .. @props-up",),
        ),
    ),
    CLASSES,
)
_SOFTLY = Listener(
    (
        Phrase(
            "slowly",
            (
                "@soft",
                "first ... then",
                "hand .. up ?your|the leg|thigh|shin|knee",
                "breath|breaths to come|get|roll|stand",
                "over two|three|four|five|six|several|a|few|your breath|breaths",
                "@soft ... up",
                "whenever you",
            ),
            ("Roll up bone by bone.",),
            ("And stand up.",),
            denied=True,
        ),
    ),
    CLASSES,
)
_SUDDEN = Listener(
    (Phrase("suddenly", ("@sudden",), ("And jump up.", "Up in one go."), ("No rush.",), unless=("swing .. leg|arm",)),),
    CLASSES,
)
_LIMIT = Listener(
    (
        Phrase(
            "only so far",
            (
                "@limit",
                "leave|stop|ease|rest|pause|back|come .. pain|hurt|sharp|odd|sore|wrong",
                "hurt|pain|painful|wrong|sharp|odd|strange|strong ... stop|ease_off|rest|pause",
                "too much|strong .. stop|ease|rest|pause|leave|less|out|back",
                "should|must|need|may never|not ?be ?feel hurt|pain|painful|uncomfortable",
                "mild|gentle|light|soft|easy|pleasant|comfortable ?and ?easy pull|stretch|tension|feeling|range",
                "keep|stay .. pleasant|comfortable|mild|gentle|easy",
                "no|not|never|without|but ?any|a ?sharp pain|hurt|ache|sting|burn",
                "only as ?far|much|deep|long",
                "as|so far as .. good|pleasant|comfortable|nice|okay|fine",
                "listen to your body",
                "before it .. hurt|pain|strong",
                "something ?feel wrong",
                "any pain|sharp|tingling|numbness",
                "pain .. stop",
                "no ?sharp pain",
                "not agree with you",
                "nothing .. hurt|endure",
                "what hurts",
            ),
            ("Mild tension, never sharp pain.", "A light stretch is enough.", "Discomfort means too far."),
            ("It doesn't hurt to have some water beside you.", "Keep going, even through a mild pain."),
            unless=("not hurt to have|bring|ask", "even through", "it will hurt", "until i tell", "keep go .. pain"),
            denied=True,
        ),
    ),
    CLASSES,
)
_RESTS = Listener(
    (
        Phrase(
            "may stop",
            (
                "@rests",
                "sit .. out",
                "allowed",
                "your own pace",
                "take|have|need .. break|rest|pause|breather",
                "nobody|no_one .. must|have|need .. everything|all|whole",
                "not have|need to .. do|join .. everything|all|whole|with",
                "drop|step|stay|leave|sit out|aside",
                "at any time|point",
                "any time|whenever .. like|want|need|wish",
                "do|take part in only|just|as much|what",
                "as much|little as you like|want|need",
            ),
            ("Rest as often as you like.", "You may sit out whenever you want."),
            ("Keep going until I tell you to stop.", "Do not stop early."),
            unless=("not|never stop", "until i|we .. stop", "keep go until"),
        ),
    ),
    CLASSES,
)
_DOCTOR = Listener(
    (
        Phrase(
            "ask somebody",
            (
                "ask|check|see|consult|talk|speak|clear .. @doctor",
                "@doctor .. say|know|tell|agree|clear|allow|ok",
                "ask|check .. whoever .. treat",
                "whoever treat .. ask|first",
                "@doctor ?be word|advice|opinion|view|ok|okay|blessing|permission|come",
                "with ?the|your @doctor",
                "under treatment .. ask|check|word",
                "treat you .. know|say|decide",
                "word|advice|okay of|from ?your|the @doctor",
                "up to .. @doctor",
            ),
            ("Ask your doctor first.", "Check with whoever treats you before you join in."),
            ("Be a little careful.",),
        ),
    ),
    CLASSES,
)
_EASIER = Listener(
    (
        Phrase(
            "an easier way",
            (
                "easy|easier $|way|option|version|,",
                "make|do it easier|easy|small|smaller|gentle|gentler",
                "to make it easier|easy",
                "too much|strong|far|hard|intense",
                "for less",
                "less ?stretch ,|?",
                "if .. too much|strong",
                "if|when .. , ?just ?then turn|bend|lean|reach|lift|go|pull|sit|step|hold ?it ?only less|small|half",
                "if you need|prefer|like|struggle|want .. less",
                "need less",
                "gentle|gentler|kind|kinder way|option|version",
                "alternative",
                "for anybody|everybody|those who|whoever .. struggle|can not|tire",
                "can not reach .. ?",
                "does .. too",
                "if high|low|it .. not suit|feel",
                "keep it low|small",
                "or stay|keep|rest|leave|bend|put",
                "if .. got heavy|tire",
                "you could have",
                "would|could|might have be|do ?also ?just fine|enough|okay|plenty|it|too|$",
                "fine to",
                "can|could|may ?also ?always ?just keep|make|leave|stay|do .. tiny|small|low|down|bent|little|short",
                "can|could|may ?also ?always ?just rest|hold|put|leave|keep|lean",
            ),
            (
                "For less, bend your knee.",
                "Can't reach the foot? Take hold of your trouser leg.",
                "Too strong? Bring your foot in.",
            ),
            ("Let it get easier with every breath.", "Roll smoothly."),
            unless=("easier with|as", "get easier"),
            denied=True,
        ),
    ),
    CLASSES,
)


def says_support(words: str) -> bool:
    """Whether people hear what to hold on to."""
    return bool(_SUPPORT.heard(words))


def says_slowly(words: str) -> bool:
    """Whether people hear to take their time, and nothing sudden."""
    return bool(_SOFTLY.heard(words)) and not _SUDDEN.heard(words)


def says_tension(words: str) -> bool:
    """Whether people hear how far a stretch should go: mild, without pain."""
    return bool(_LIMIT.heard(words))


def says_rest(words: str) -> bool:
    """Whether people hear that they may stop and rest."""
    return bool(_RESTS.heard(words))


def says_professional(words: str) -> bool:
    """Whether people hear whom to ask where they have something."""
    return bool(_DOCTOR.heard(words))


def says_easier(words: str) -> bool:
    """Whether people hear an easier way to do it."""
    return bool(_EASIER.heard(words))
