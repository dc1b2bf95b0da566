"""What words ask people to do that needs care: pushing, holding or forcing the breath, bouncing, closing the eyes."""

from __future__ import annotations

from extendum.core.listening.classes import CLASSES
from extendum.core.listening.phrases import Listener, Phrase

PUSHING = (
    Phrase(
        "to the end of what is possible",
        (
            "as @much as you ?possibly|ever can|could",
            "as @much as possible",
            "to|past|beyond|at your|the|their ?very|own|absolute|outer limit|maximum|max",
            "one|another|extra|more inch|centimetre",
            "limit|limits .. go|push|reach|move beyond|past|through",
            "maximum|extreme|deepest stretch",
            "all you have got",
            "give it everything|all",
        ),
        ("Stretch as deep as you possibly can.", "Go right to your limit and then a bit more."),
        ("As high as you like.", "Go as far as you can without any strain.", "Only as far as you feel comfortable."),
        unless=("can .. without|comfortable|comfortably|easily|nicely|still", "only as", "not|never .. as @much as"),
    ),
    Phrase(
        "through pain",
        (
            "through|past|beyond|ignore|despite .. @hurt",
            "even if|though|when .. @hurt",
            "even through .. @hurt",
            "until|till .. @hurt|shake|tremble",
            "feel .. burn",
            "work|push|power|breathe|stretch|go through|past this|it",
            "i know .. hurt",
            "learn to .. @hurt",
        ),
        ("Pull it in until it really burns.", "Keep going even if there's a little pain.", "Work through that."),
        ("If it burns, you have gone too far: back off.", "Stop if it hurts."),
        unless=("back off|ease off|come out|too far|stop|rest|sit down $", "not|never through", "walk through"),
    ),
    Phrase(
        "pain is good",
        (
            "no pain|agony ... no gain",
            "no gain without .. @hurt",
            "@hurt .. be|mean .. good|normal|ok|okay|working|gain|friend|fine",
            "good @hurt",
            "should|must|suppose|meant|mean|ought|has|have to|need .. hurt|burn|sting",
            "should hurt|burn|sting",
            "if .. not hurt ... not|wrong",
            "bit|little of pain .. good",
        ),
        (
            "No pain, no gain.",
            "It should hurt a bit.",
            "It's meant to sting.",
            "If it doesn't hurt, you are not doing it right.",
        ),
        ("Nothing should hurt.", "A pull is fine, a sting is not.", "Pain is a stop sign."),
        denied=True,
        unless=(
            "nothing|nobody|never|no .. should|must .. @hurt",
            "should|must|need not .. @hurt",
            "need|have not to .. @hurt",
            "not have to .. @hurt",
            "@hurt .. not ?be .. good|normal|fine|ok",
            "sting|pain be not",
            "nothing .. @hurt",
        ),
    ),
    Phrase(
        "by force",
        (
            "@forces @self",
            "@forces ?@self .. down|further|deeper|round|open|closer",
            "push|pull|press yourself|harder|deeper",
            "push ?it|this|them further|harder|deeper",
            "push|press|pull .. all the way down|to|into",
            "pull|press|push .. down|in|back hard",
            "pull|press|push|draw ?it|them|this|as hard as you",
            "pull .. really|as hard",
            "pull .. hard $",
        ),
        ("Force this shoulder down.", "Push yourself.", "Crank yourself round another inch."),
        ("There's no need to force the knees down.", "Push the floor away.", "Push the hips back towards the wall."),
        unless=("only as hard", "as hard as be|feel|you like"),
    ),
    Phrase(
        "no way out",
        (
            "whatever it take|say|cost",
            "at all cost",
            "not be|get lazy|weak|soft|wimp",
            "grit your tooth|teeth",
            "not stop|quit|give up|let go|come out ?early|now|yet",
            "no excuse",
            "no mercy|giving up",
            "tough it out",
            "suffer",
            "not allow .. stop",
        ),
        ("Get those hands to the floor whatever it takes.", "Don't be lazy, further over."),
        ("Don't stop breathing.", "Stop whenever you like."),
        denied=True,
        unless=("not stop .. breath|breathe|move|circle|if", "no|not .. suffer"),
    ),
)
_PUSHING = Listener(PUSHING, CLASSES)

HOLDING = (
    Phrase(
        "hold the breath",
        (
            "hold|keep|trap|lock ?your|the|that|this|a|in ?big|full|deep @air",
            "hold in the air|breath",
            "@air hold",
            "stop|stopping breathe",
            "not breathe|exhale|inhale until|till|while|for|yet",
            "breathe|breath in .. and|, hold it|that|this|there|for|, ",
            "breathe|breath in , hold , hold",
            "keep the @air in|inside",
            "without breathe ?out",
            "pause your breath",
            "breathe in .. and hold $",
            "breathe in .. , and hold",
        ),
        ("Hold your breath for a second.", "Breathe in, and hold it there.", "Stop breathing for a moment."),
        ("Never hold your breath.", "Hold the stretch and breathe.", "Breathe in, hold the hips still, breathe out."),
        unless=(
            "not|never|nobody .. hold ?your|the @air",
            "not|never stop breathe",
            "breath .. hold the|your|on|still",
            "keep breathe",
            "keep the air moving",
        ),
        denied=True,
    ),
)
_HOLDING = Listener(HOLDING, CLASSES)

FORCING = (
    Phrase(
        "force the breath",
        (
            "rapid|forceful|force|pump|explosive|violent|sharp breath|breathe|exhale|inhale",
            "breathe|blow|exhale|inhale|puff|huff .. @hardly",
            "pump .. belly|stomach|abdomen|diaphragm",
            "pant",
            "blow .. all your|you",
            "breathe|blow|exhale .. as @much as you",
            "empty .. lung completely",
            "quick quick",
        ),
        ("Blow it out with all your strength.", "Pump the belly, quick, quick, quick.", "Pant like a dog."),
        ("No hard blowing.", "If you breathe fast, slow the feet down."),
        unless=("if .. breathe .. fast|hard|quick", "slow .. breathe"),
    ),
)
_FORCING = Listener(FORCING, CLASSES)

BOUNCING = (
    Phrase(
        "bounce",
        (
            "bounce",
            "bob",
            "jiggle",
            "ballistic",
            "little|small|tiny|quick|few|some pulse",
            "pulse it|there|gently|up|down|deeper|in|here|at",
            "jerk ?it|your .. deeper|further",
        ),
        ("Bob up and down at the bottom.", "Give it little pulses, deeper and back."),
        ("Keep it still: bouncing gains nothing.", "A little spring in the step is welcome.", "Raise your pulse."),
        unless=("bounce gain|do|help nothing", "bounce|bob .. not", "bounce lightly .. knee|foot"),
    ),
)
_BOUNCING = Listener(BOUNCING, CLASSES)

EYES = (
    Phrase(
        "close the eyes",
        (
            "@shuts ?your|the|both|this|these ?own @lids",
            "let .. @lids .. close|shut|sink|fall|drop",
            "@lids ?be|fall|gently|softly|soft|lightly ?gently close|shut",
            "with ?your|the @lids close|shut",
            "lower your lid|eyelid",
        ),
        ("Let your eyes fall shut.", "Shut those eyes for a moment.", "With eyes shut, breathe."),
        ("Don't close your eyes.", "It gets harder once the eyes close, so we leave them open.", "Open your eyes."),
        unless=("once .. eye close", "leave|keep them open", "eye|eyes open .. close"),
    ),
)
_EYES = Listener(EYES, CLASSES)

pushes, holds_breath, forces_breath, bounces, closes_eyes = _PUSHING, _HOLDING, _FORCING, _BOUNCING, _EYES
