"""Words that stand for the same thing in what instructors say, by the name of their class."""

from __future__ import annotations

#: What hurts or ails, as people speak of it.
_ILL = (
    "sore", "soreness", "ache", "aches", "achy", "pain", "painful", "injury", "injured", "strain", "sprain", "cramp",
    "spasm", "sciatica", "headache", "migraine", "stiff", "stiffness", "arthritis", "inflammation", "pulled muscle",
    "pull a muscle", "pull muscles", "muscle ache", "shin splints", "tennis elbow", "illness", "disease", "sickness",
    "swelling", "back trouble", "slipped disc", "stress", "anxiety", "depression", "insomnia", "tears",
    "wear and tear", "carpal tunnel", "hunched back", "sleepless night", "back problem", "knee problem", "twinge",
    "rheumatism", "tendonitis", "hernia", "tear", "torn", "torn muscle", "torn hamstring", "torn ligament",
    "pulled calf", "tension headache", "hunchback", "cold", "flu", "pulled hamstring", "blister", "muscle fever",
    "bad back", "bad knee",
)  # fmt: skip
#: What happens inside a body: who speaks of it, promises.
_HIDDEN = (
    "organ", "toxin", "lactate", "lactic acid", "metabolism", "immune system", "immunity", "hormone", "lymph",
    "lymphatic", "cell", "oxygen", "digestion", "digestive", "cortisol", "endorphin", "serotonin", "vagus",
    "collagen", "synovial", "liver", "bowel", "waste product", "scar tissue", "adhesion", "chakra", "meridian",
    "cellulite", "calorie", "belly fat", "life expectancy", "testosterone", "free radical", "blood sugar",
    "cholesterol", "bone density", "nervous system", "fresh blood", "blood supply", "blood vessel", "artery",
)  # fmt: skip
_PRAISE = (
    "good", "great", "best", "excellent", "wonderful", "brilliant", "perfect", "ideal", "fantastic", "amazing",
    "superb", "unbeatable", "magic", "effective", "helpful", "gold", "miracle", "super",
)  # fmt: skip
#: What only comes with a promise: nobody can see it happen in a class.
_INSIDE = (
    "toxin", "waste", "lactic acid", "scar tissue", "adhesion", "blockage", "trauma", "emotion", "emotional tension",
    "negative energy", "blocked energy", "stored emotion", "bad energy", "grief", "anger", "sadness", "sorrow",
    "fear", "round shoulder", "rounded shoulders", "hunch", "slouch", "bad posture", "double chin", "rounded back",
    "hunched shoulders", "knot", "worry", "tension of the day", "tension of the week", "stored tension",
    "trapped tension", "bad mood", "lactate", "waste product", "poison", "bad vibe", "old pain", "stress of the day",
    "stress of the week",
)  # fmt: skip
#: What is said to be made better without anybody knowing it.
_SYSTEMS = (
    "immune system", "immunity", "metabolism", "digestion", "lymph", "lymphatic system", "hormone", "organ",
    "recovery", "nervous system", "energy flow", "energy level", "posture", "alignment", "disc", "circulation",
)  # fmt: skip
_FRAME = ("spine", "vertebra", "vertebrae", "pelvis", "neck", "back", "hip", "joint", "cartilage", "fascia", "body")
_DAYS = ("monday", "tuesday", "wednesday", "thursday", "friday", "saturday", "sunday")

CLASSES: dict[str, tuple[str, ...]] = {
    "ill": _ILL,
    "malady": (
        "backache", "headache", "migraine", "cramp", "injury", "sciatica", "arthritis", "carpal tunnel", "insomnia",
        "anxiety", "depression", "sprain", "hernia", "disease", "illness", "swelling", "back pain", "knee pain",
        "neck pain", "joint pain", "shoulder pain", "chronic pain", "hip pain", "muscle pain", "slipped disc",
        "shin splints", "tennis elbow", "rheumatism", "frozen shoulder", "sleepless night",
    ),
    "hidden": _HIDDEN,
    "praise": _PRAISE,
    "inside": _INSIDE,
    "value": ("blood pressure", "stress level", "blood sugar", "cholesterol", "cortisol"),
    "system": _SYSTEMS,
    "frame": (*_SYSTEMS, *_FRAME),
    # Done to an ill, these promise to take it away. The strong ones do so in any mood; the weak ones need somebody or
    # something that does it, since "stop at any pain" and "avoid any strain" are cautions.
    "rids": (
        "prevent", "relieve", "alleviate", "cure", "heal", "fix", "repair", "get rid of", "banish", "eliminate",
        "beat", "flush", "flush out", "wash out", "melt", "dissolve", "ward off", "keep away", "do away with", "undo",
        "reverse", "iron out", "take away", "break up", "say goodbye to", "combat", "say farewell to",
        "bid farewell to", "farewell to", "goodbye to", "wash away", "send away", "drain", "erase", "wipe out",
        "chase away", "drive out", "knock out", "kill", "wave goodbye to", "rid you of", "spare you", "save you from",
        "counter", "counteract", "fend off", "stave off", "let go of", "work against", "squeeze out", "press out",
        "wring out", "shake off",
    ),
    "eases": (
        "stop", "avoid", "reduce", "lower", "lessen", "cut", "ease", "soothe", "clear", "release", "remove", "treat",
        "help with", "help against", "work out", "protect", "guard", "shield", "end", "minimise", "decrease", "free",
    ),
    # What these do to a body nobody can see; lengthening a muscle or straightening a knee everybody can.
    "betters": (
        "boost", "speed up", "speed", "accelerate", "realign", "align", "rejuvenate", "restore", "detox", "detoxify",
        "correct", "decompress", "rebalance", "reset", "regenerate", "repair", "rebuild", "optimise", "unblock",
        "kick start", "stimulate",
    ),
    "trains": ("strengthen", "improve", "straighten", "lengthen", "help", "support"),
    "doer": (
        "this", "it", "stretch", "stretching", "class", "move", "pose", "exercise", "which", "what", "we", "you",
        "cool-down", "cool down", "warm-up", "warm up", "routine", "session", "yoga", "movement", "here", "one",
        "body",
    ),
    "never": ("not", "never", "no", "no more", "no longer", "without", "nobody"),
    "becomes": ("be", "get", "feel", "wake", "wake up", "have", "suffer", "go", "become", "grow", "come"),
    "gone": (
        "go", "gone", "vanish", "disappear", "melt away", "melt", "go away", "fade", "history", "a thing of the past",
        "dissolve", "evaporate", "cure", "over", "ease", "leave you", "lift", "heal",
    ),
    "structure": (
        "back", "lower back", "spine", "disc", "joint", "knee", "hip", "neck", "shoulder", "cartilage", "fascia",
        "tendon", "ligament", "nerve", "bone", "pelvis", "vertebra", "heart", "lung", "skin", "brain", "mind", "soul",
    ),
    "flourishes": (
        "young", "younger", "healthy", "healthier", "oiled", "lubricated", "supple", "strong", "mobile", "flexible",
        "slim", "slimmer", "slender", "thin", "thinner", "taller", "fit", "fitter", "clear", "calm", "balanced",
        "pain free", "well oiled", "happy", "happier", "nourished", "hydrated", "fresh", "clever", "cleverer",
        "smarter", "lighter", "stronger", "faster", "looser", "longer",
    ),
    "later": (
        "tomorrow", "next day", "next morning", "again", "any more", "anymore", "afterwards", "tonight", "for good",
        "forever", "permanently", "ever", *_DAYS,
    ),
    "anew": (
        "new", "brand new", "light", "lighter", "better", "young", "younger", "fresh", "pain free", "loose", "looser",
        "strong", "stronger", "reborn", "great", "amazing", "fantastic", "relaxed", "flexible", "longer", "taller",
        "supple",
    ),
    "hurt": (
        "pain", "hurt", "burn", "sting", "agony", "discomfort", "ache", "tears", "suffer", "painful", "sore",
        "torture", "uncomfortable", "unpleasant", "scream", "tough", "nasty",
    ),
    "softly": (
        "slow", "slowly", "gentle", "gently", "soft", "softly", "light", "lightly", "little", "quiet", "quietly",
        "comfortable", "comfortably", "tall", "small", "relaxed", "smooth", "smoothly", "easy", "easily", "still",
        "long", "upright", "even", "evenly", "calm", "calmly", "loose", "flat", "steady",
    ),
    "exits": (
        "stop", "stopping", "quit", "give up", "let go", "come out", "come up", "rest", "break", "slack", "slow down",
        "back off", "ease off", "pause", "chicken out", "wimp", "wimp out", "whine", "moan", "complain", "cheat",
        "excuse", "mercy", "giving up", "escape", "bail out", "fidget",
    ),
    "much": ("far", "deep", "low", "high", "hard", "close", "wide", "long", "fast", "much", "strong", "strongly"),
    "forces": ("bully", "slam", "force", "crank", "yank", "jerk", "wrench", "shove", "ram", "heave", "crush", "jam"),
    "self": ("yourself", "your", "the", "it", "this", "these", "them", "her", "him", "that"),
    "air": ("breath", "air"),
    "inhales": (
        "breathe in", "inhale", "take a breath", "take a deep breath", "take a big breath", "take one breath",
        "take one deep breath", "draw a breath", "deep breath in", "big breath in", "breath in", "fill your lungs",
        "fill the lungs", "fill your chest", "suck in the air", "take in air",
    ),
    "hardly": (
        "hard", "fast", "quick", "quickly", "forcefully", "forceful", "strength", "might", "sharply", "violently",
    ),
    "lids": ("eye", "eyes", "lid", "eyelid"),
    "shuts": ("close", "shut", "fall shut", "fall closed"),
    "day": _DAYS,
    "often": (
        "every day", "each day", "daily", "every morning", "each morning", "every evening", "each evening",
        "every night", "each night", "every week", "each week", "a day", "a week", "per day", "per week", "most days",
        "every other day", "at home", "before bed", "before breakfast", "after every", "twice a week", "an hour",
        "every hour", "each hour", "every few hours", "every couple of hours", "a month", "three days", "seven days",
        "before you go to bed", "when you get up", "in the morning", "in the evening", "between classes",
        "until next time", "until next week", "every weekday", "on workdays", "weekdays",
    ),
    "works": (
        "look after", "work", "work on", "stretch", "do", "open", "loosen", "free", "turn to", "get to", "come to",
        "go to", "mobilise", "focus on", "take care of", "deal with", "concentrate on", "visit", "wake", "wake up",
        "warm", "warm up", "spend time on", "be for", "be about", "go through", "treat", "tackle", "target", "move",
        "finish with", "end with", "close with", "show", "try", "use", "take", "need", "get", "have", "lie", "sit",
        "stand", "kneel", "roll", "be",
    ),
    "things": (
        "ball", "strap", "belt", "towel", "block", "brick", "band", "cushion", "pillow", "blanket", "bolster",
        "roller", "stick", "pole", "broom", "scarf", "weight", "dumbbell", "rope", "book", "bottle", "chair", "stool",
        "bench", "wall", "step", "hoop", "sofa", "mat", "ring", "loop",
    ),
    "moves": (
        "bridge", "twist", "plank", "squat", "lunge", "hinge", "hang", "fold", "march", "balance", "roll down",
        "side bend", "body scan", "massage", "meditation", "relaxation",
    ),
    "break": ("break", "pause", "drink", "water", "sip", "breather"),
    "chores": (
        "brush", "cook", "wait", "watch", "shower", "phone", "wash", "drive", "work", "walk", "get up", "wake",
        "commute",
    ),
    "practises": (
        "do", "repeat", "practise", "practice", "try", "try to", "hold", "stretch", "keep", "take", "make", "aim",
        "work on", "go through", "run through", "fit in", "squeeze in",
    ),
    "doctor": (
        "doctor", "gp", "osteopath", "chiropractor", "masseur", "masseuse", "physio", "physiotherapist",
        "health professional", "nurse", "therapist", "professional", "whoever treats you", "your midwife", "surgeon",
        "specialist", "medical advice", "consultant",
    ),
    "asks": (
        "ask", "check", "check with", "see", "consult", "tell", "talk to", "speak to", "clear it with", "worry about",
    ),
    "rolls": (
        "castor", "caster", "castors", "on wheels", "with wheels", "its wheels", "swivel", "swivels", "spin",
        "folding chair", "folding stool", "camping chair", "deck chair", "rocking chair", "bar stool", "gaming chair",
        "wobbly", "rickety", "loose rug", "rug", "laundry rack", "clothes rack", "clothes horse", "drying rack",
        "ironing board", "slippery floor", "office chair", "desk chair", "polished floor", "wet floor", "wet grass",
        "smooth tiles", "tea trolley", "trolley", "suitcase", "pram", "shopping cart", "stack of books",
        "pile of books", "floor lamp", "curtain", "tea towel on", "music stand", "bicycle",
    ),
    "count": ("two", "three", "four", "five", "six", "eight", "ten", "twelve", "dozen", "couple", "few", "set"),
    "accepts": (
        "works", "works too", "work too", "great", "serves", "too", "also", "as well", "suits", "enough too", "fine",
        "ok", "okay", "will do", "do", "good enough", "enough", "no problem", "welcome", "all right", "alright",
        "or not", "perfect", "do not matter", "does not matter", "good",
    ),
    "refuses": (
        "swap", "outside", "stay outside", "instead", "turn it over", "turn it round", "check", "make sure", "avoid",
        "never", "not", "no", "without", "away", "leave", "change it", "another", "lock", "brake", "against the wall",
        "stays outside", "rather than", "risky", "danger", "dangerous", "careful", "unless", "fix", "wedge",
        "nothing",
    ),
    "props-up": (
        "chair", "wall", "table", "rail", "railing", "support", "door", "desk", "seat", "windowsill", "sill", "sofa",
        "counter", "bench", "post", "worktop", "sideboard", "something", "barre", "doorframe", "frame", "armrest",
    ),
    "hand": ("hand", "finger", "fingertip", "palm", "arm", "elbow", "forearm"),
    "grips": (
        "hold", "hold on to", "touch", "lean", "grip", "grab", "support", "support yourself", "steady",
        "steady yourself", "brace", "lightly hold",
    ),
    "soft": (
        "slow", "slowly", "gently", "gentle", "gradually", "unhurried", "easy", "your time", "all the time",
        "own time", "yourself time", "time to come", "time to get", "time to stand", "in stages", "bone by bone",
        "bit by bit", "little by little", "step by step", "one by one", "a moment", "moment", "no rush", "no hurry",
        "without hurry", "head last", "peel", "unroll", "uncurl", "pause", "only then", "vertebra by vertebra",
        "one bone", "one vertebra", "wait", "hold on to", "in no hurry", "take a breath",
    ),
    "sudden": (
        "jump", "jump up", "snap", "pop", "spring", "leap", "in one go", "quickly", "quick", "fast", "bounce",
        "shoot", "whip", "throw yourself", "swing", "hop",
    ),
    "limit": (
        "mild", "gentle pull", "light stretch", "gentle stretch", "mild stretch", "mild tension", "comfortable",
        "comfort", "no pain", "not hurt", "never hurt", "nothing should hurt", "nothing need hurt", "pain free",
        "discomfort means", "sharp", "endured", "nothing needs to be endured", "never pain", "without pain",
        "any pain",
    ),
    "rests": (
        "rest", "stop", "ease", "ease off", "come out", "come back out", "pause", "take a break", "sit out",
        "leave off", "leave out", "sit down", "sitting down", "back off", "skip", "take a rest", "have a break",
        "leave it out", "come out of it",
    ),
}  # fmt: skip
