"""Promises that a stretch class cannot keep."""

from __future__ import annotations

from functools import lru_cache

from extendum.core.listening.classes import CLASSES
from extendum.core.listening.phrases import Listener, Phrase, asked, conditional, hedged

PROMISES = (
    Phrase(
        "takes an ill away",
        (
            "@rids .. @ill",
            "@rids .. @inside",
            "keep|drive|chase|take .. @ill .. away",
            "@doer .. @eases .. @ill",
            "@doer .. @eases ... @inside",
        ),
        ("It alleviates muscle soreness.", "Stretching prevents injuries.", "This releases emotional tension."),
        ("Stop if your neck gets sore.", "Bend less if your knee is sore.", "Ease off at any pain."),
        unless=("in .. trial|study",),
    ),
    Phrase(
        "speaks of an ill",
        ("@malady",),
        ("All your headaches come from here, and here they end.", "Your sciatica has no chance."),
        ("Please tell me about any injuries.", "With a headache, leave this out.", "My back pain is back."),
        denied=True,
        unless=(
            "with|for|after|despite|of|about|like|recent|old|past ?a|an|any|your @malady",
            "@malady .. not|never",
            "who|anybody|everybody|somebody|those|people|many|most|some|few .. @malady",
            "watch|careful|sit|know|mean|feel|get a|an|any .. @malady",
            "tell|ask|stop|rest|avoid|skip|leave|ease|watch|mind|check|hope .. @malady",
            "my|i|me|mine|he|she|his|her|brother|sister|mother|father|friend ... @malady",
            "not|never|nothing|nobody|hardly|little .. @rids|@eases|help|do|change|promise|know ... @malady",
            "should|must|may|can|could|might|need ?not|never ?be|have|feel|cause|get .. @malady",
            "@malady ?, ?please|means|mean|be a|not|no|stop|reason|sign|condition|serious",
        ),
    ),
    Phrase(
        "less of an ill",
        (
            "@eases .. risk|chance|danger|odds|likelihood .. @ill",
            "risk|chance|danger|odds .. @ill .. fall|drop|sink|small|smaller|low|zero|down|halve",
            "less|few|fewer .. @ill .. @later",
            "few|fewer ?and ache|pain|injury|headache|cramp|strain|problem",
            "^ less pain|soreness|ache|stress $",
        ),
        ("It reduces the risk of injury.", "Fewer injuries for good."),
        ("For less stretch, bend your knee.",),
    ),
    Phrase(
        "for those who want to avoid it",
        ("want|like|wish .. avoid|prevent|escape .. @ill",),
        ("If you want to avoid pulled muscles, this is the class.",),
        ("Do as you want, and avoid any strain.",),
    ),
    Phrase(
        "an ill that will not come",
        (
            "will .. not|never .. @ill",
            "not|never|no .. @becomes .. @ill .. @later",
            "@later .. not|no|never .. @ill",
            "no|not|never|without .. @ill .. @later",
            "no more|longer ~ing ?@structure|leg|foot|muscle",
            "no more @ill",
            "not|never .. bother|plague|trouble|torment|let_down you",
            "never .. @becomes .. hurt|@ill",
            "so that .. not|never .. @becomes .. @ill",
            "free of|from .. @ill",
            "not @becomes .. @ill .. next",
            "@ill ? not|never|gone",
            "without a single @ill",
        ),
        ("You won't be sore tomorrow.", "You'll be free of low back pain."),
        ("You may feel a little sore tomorrow.", "It will not cure anything.", "There should be no pain."),
        denied=True,
        unless=(
            "should .. no|not",
            "should|must|need|may never|not",
            "not|never|nothing .. @rids|@eases .. @ill",
            "i|we make no promise",
        ),
    ),
    Phrase(
        "an ill that goes",
        ("@ill|@inside .. will|be .. @gone", "@ill|@inside go|fade|vanish|dissolve|melt ?away"),
        ("Your back pain will be gone by Friday.", "Your knots will dissolve.", "Sciatica is history."),
        ("Stress will not vanish in ten minutes.", "Once the cramp is gone, go on."),
        unless=("let|allow", "once|when|until|till .. @gone"),
    ),
    Phrase(
        "is good for a structure",
        (
            "@rids|@betters:s .. @structure|@frame",
            "heal|repair|nourish|feed|oil|lubricate|hydrate:s .. @structure",
            "keep|make|get|leave:s your|the|you .. @flourishes",
            "will keep|make|leave|get your|the|you .. @flourishes",
            "@structure ?have|will .. decompress|rehydrate|regenerate|realign|soak|refill|heal|repair",
            "save|spare:s you .. trip|doctor|physio|operation|surgery|money|trouble|tablet",
            "will save|spare you .. trip|doctor|physio|operation|surgery|tablet",
            "@structure|body|muscle|tissue @rids|@betters:s|renew|recover ?itself|themselves|himself",
            "keep|stop|save|prevent:s .. from ~ing",
            "this|it|that|stretch|move take:s care of",
            "@praise|real ?kind ?of protection|insurance|defence|prevention|guard",
            "nobody|no_one|none .. get|be injured|injury",
            "nobody|no_one|none .. get|be|end_up|have|suffer|go .. @ill",
            "body|muscle|tissue|@structure be heal|repair|renew|regenerate|detoxify",
            "@structure|you|leg|foot|hand|body .. will|would never .. again|anymore",
            "will never .. @structure|leg|foot .. again",
            "@system|@structure get|become|grow:s good|healthy|young|strong|stronger|healthier|younger",
            "build|grow:s .. bone|muscle|strength|resilience|stamina|immunity",
            "will stand|walk|be .. taller|straighter|longer|slimmer",
            "more for .. than ?any @doctor|massage|pill|medicine",
            "replace:s .. @doctor|visit|massage|pill|gym|medicine",
            "back where it|they belong",
            "good than ?any pill|medicine|tablet|doctor|drug|painkiller|operation",
            "small|smaller|flat|flatter|slim|slimmer|narrow|narrower|tight|tighter waist|belly|tummy|stomach|bottom",
            "@later ... without|no ?any ?a ?single @ill",
            "stay|remain:s young|healthy|supple|flexible|fit",
            "@trains:s .. by ?several ?a ?few|some centimetre|inch|percent",
            "no|nobody|never .. @doctor|surgery|tablet|painkiller .. @later|any more",
        ),
        ("The bridge heals lower backs.", "It keeps your joints well oiled.", "Your spine decompresses by itself."),
        ("Keep your back straight.", "Make your spine long.", "Keep your neck long and relaxed."),
        unless=("should", "if .. injured|hurt"),
    ),
    Phrase(
        "protected against an ill",
        (
            "protect|immune|proof|safe|shield|armour .. against|from|to .. @ill",
            "be ?now ?well protect|protected|immune|bulletproof|injury_proof|armoured",
            "you|we|they .. avoid|escape|dodge|prevent .. @ill",
        ),
        ("You are protected against strains for your run.",),
        ("This will not make you immune to anything.",),
    ),
    Phrase(
        "makes the body better",
        (
            "boost|accelerate|realign|rejuvenate|detoxify|rebalance .. @frame",
            "speed up .. recovery|metabolism|healing",
            "@doer .. @betters .. @frame",
            "@doer .. @trains:s .. @system",
            "@betters .. posture|spine|back .. @later",
            "~ing .. @betters:s .. @frame",
            "~ing .. @eases:s .. @ill",
        ),
        ("It speeds up recovery.", "This realigns your neck.", "Opening the chest corrects your posture."),
        ("Lengthen your spine.", "Straighten your knee.", "Strengthen your back with us next week."),
    ),
    Phrase(
        "cleans the body",
        (
            "detox",
            "detoxify",
            "energy channel|line|centre|flow",
            "open|unlock|unblock|raise|balance|channel|free|boost .. energy|chi|aura|vibration",
            "flush|wash|rinse .. @inside",
        ),
        ("We are here to detox the body.",),
        ("There are no toxins to flush out.",),
    ),
    Phrase(
        "makes people slimmer or younger",
        (
            "burn|melt|lose|shed .. fat|calorie|weight|inch|kilo|pound",
            "keep|make .. young|slim|taller",
            "live longer",
            "add .. year|decade|month|day to|of",
            "turn back .. clock",
        ),
        ("This burns fat.", "It keeps your discs young."),
        ("Feel the weight of your arms.",),
    ),
    Phrase(
        "is certain",
        ("guarantee", "miracle", "prove to|it @betters .. @system", "be prove to .. boost|prevent|cure|stop|reduce"),
        ("You'll sleep better tonight, that is guaranteed.",),
        ("Nothing is guaranteed.",),
    ),
    Phrase(
        "cures",
        ("cure|heal .. everything|anything|it|you", "this|it|which cure|heal"),
        ("This cures it.",),
        ("It will not cure anything.",),
    ),
    Phrase(
        "works inside",
        ("@hidden",),
        ("Twisting wrings out your organs.", "It gets digestion going."),
        ("There are no toxins to flush out.", "If you have low blood sugar, eat first."),
        unless=("@asks|tell .. @doctor", "low|high blood sugar|cholesterol"),
    ),
    Phrase(
        "good against an ill",
        (
            "@praise for|against|with .. @ill|@inside|@system",
            "remedy|cure|medicine|antidote|insurance|weapon|recipe|trick|secret|answer for|against|to .. @ill|@inside",
            "work|do wonder|miracle|magic",
            "keep .. @ill .. at bay|off|out",
        ),
        ("Great against headaches.", "That is how you keep carpal tunnel at bay.", "This works wonders."),
        ("Good, and less if you are sore.", "A cushion is better for sore knees."),
        unless=("cushion|towel|pad|blanket|chair|mat|version|option|variant|way|small|smaller|instead",),
    ),
    Phrase(
        "leaves the body",
        ("tension|stress|worry|tightness|@inside .. drain|flow|leave|melt|pour|evaporate .. body|you|muscle",),
        ("All the tension of the week drains out of your body.",),
        ("Let the tension flow out of your body.", "Imagine that the stress leaves you."),
        unless=("let|allow|imagine|picture|invite|feel", "as if|though"),
    ),
    Phrase(
        "a good day after",
        (
            "you|body|leg|back|muscle|neck|shoulder|hip .. will|would .. thank",
            "thank you|me|yourself .. @later",
            "will .. sleep|recover|heal|rest ?so|much good|deep|deeper|deeply|sounder|like|fast|faster|well|twice",
            "sleep like",
            "@later .. you|your|leg|back|body|neck|shoulder .. be|feel|move|walk .. @anew",
            "will .. be|feel|walk .. @anew .. @later",
            "make:s you ?feel|look .. @anew|@flourishes",
            "will ?feel|be .. like|as ?good ?as new|reborn",
            "brand|good_as new",
            "new person|man|woman|you|back|body",
            "year|decade young|younger",
            "feel twenty",
        ),
        ("You'll sleep like a baby.", "Tomorrow your legs will feel brand new.", "Your muscles will thank you."),
        ("Have a good night and sleep well.", "I hope you feel a bit looser than before.", "Thank you for today."),
    ),
    Phrase(
        "for good",
        (
            "permanently",
            "once and for all",
            "@trains|make|become|get|stay|keep|change|solve|cure|gone .. for good|life|ever",
            "@trains|make|become|get|stay|keep|change .. forever",
            "last|lasting effect|result|change|relief",
        ),
        ("It makes your hamstrings permanently longer.", "It lengthens your muscles for good."),
        ("Two more for good measure.",),
        unless=("for good measure",),
    ),
    Phrase(
        "recovers faster",
        (
            "recover|heal|regenerate .. fast|faster|quick|quickly|twice|soon|sooner|half|overnight|good",
            "twice|half .. recover|heal|recovery",
            "fast|faster|quick|quicker|speedy|short|shorter recovery|healing",
        ),
        ("You recover twice as fast.",),
        ("If you are recovering from something, go slowly.",),
    ),
    Phrase(
        "puts back in place",
        (
            "@doer .. put|bring|pop|click|slide|slip|set|pull|shift|guide|move .. @frame .. place|line|position|order",
            "put|bring|pop|click|slip|set|pull:s .. @frame .. place|line|position|order",
            "@doer .. put|set .. @frame right|straight",
            "put|bring|set:s everything|things|body|it|you ?all ?back in|into ?its place|line|alignment|order|balance",
        ),
        ("This puts your pelvis back in place.",),
        ("Bring your hips back into line.",),
    ),
    Phrase(
        "unloads",
        (
            "@doer .. take|lift|relieve|reduce .. pressure|load|strain|weight off|of|from|on .. disc|spine|joint|nerve",
            "take|lift:s .. pressure|load|strain|weight off|of|from .. disc|spine|joint|nerve|back|knee",
            "@doer .. make|create|give .. room|space .. disc|vertebra|joint|nerve",
        ),
        ("It takes the pressure off the discs.",),
        ("Take your weight off the front foot.",),
    ),
    Phrase(
        "makes up for",
        (
            "undo|reverse|counteract|offset|cancel|erase|balance .. year|sitting|posture|desk|slouch|hunch|damage",
            "make|makes up for .. year|sitting|posture|desk|damage",
        ),
        ("Doing this undoes years of bad posture.",),
        ("Undo the strap.",),
    ),
    Phrase(
        "brings a value down",
        (
            "@doer|you .. lower|reduce|normalise|regulate|improve|bring|control .. @value",
            "~ing .. lower|reduce|normalise|regulate|improve|control:s .. @value",
            "@value .. will .. fall|drop|improve|sink",
        ),
        ("You have just lowered your blood pressure.",),
        ("With high blood pressure, stay halfway.", "Low blood pressure? Come up slowly."),
    ),
    Phrase(
        "says that it is known",
        (
            "study|studies|science|research|scientist|doctor show|say|prove|confirm|agree|recommend|swear",
            "scientifically|clinically|medically",
        ),
        ("Studies show that this works.", "It is clinically proven."),
        ("Do what your doctor says.", "Studies do not show that."),
        unless=("your|the doctor", "whatever .. doctor"),
    ),
)
_PROMISES = Listener(PROMISES, CLASSES)

#: Who speaks of an ill without a word of care promises something, whatever it is; told where nothing plainer is.
_PLAIN = "speaks of an ill"
#: These promise too much even as a possibility.
_STRONG = frozenset({"cleans the body", "works inside", "is certain", "for those who want to avoid it"})


@lru_cache(maxsize=8192)
def claims(words: str) -> tuple[str, ...]:
    """Promises about soreness, injury, healing, posture, weight or energy, each as written; hedged ones are none."""
    meant = [
        (phrase, match)
        for phrase, match in _PROMISES.heard(words)
        if phrase.name in _STRONG or not (hedged(match) or conditional(match) or _only_asked(phrase, match))
    ]
    more = {match.sentence for phrase, match in meant if phrase.name != _PLAIN}
    told = (match.told(words) for phrase, match in meant if phrase.name != _PLAIN or match.sentence not in more)
    return tuple(dict.fromkeys(told))


def _only_asked(phrase: Phrase, match: object) -> bool:
    return asked(match) and phrase.name != "an ill that will not come"  # type: ignore[arg-type]
