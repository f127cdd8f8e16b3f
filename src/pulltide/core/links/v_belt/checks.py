"""What is checked on a V-belt link."""

from __future__ import annotations

from pulltide.core.findings import COMMON_PRACTICE, EXACT, Rule, Severity, Source

IP20 = Source("RMA IP-20", "engineering standard for classical V-belts", "quoted from memory")
SHIGLEY = Source("Shigley's Mechanical Engineering Design", "section 17-3", "quoted from memory")
SECTIONS = Source("RMA IP-20 and IP-23", "least pulley of the section", "table quoted from memory")
OLD_TABLE = Source("Shigley's Mechanical Engineering Design", "Table 17-12", "table quoted from memory")
ALLOWANCE = Source("Machinery's Handbook", "V-belt center allowances", "quoted from memory, to about 0.25 in")

W, E, N = Severity.WARNING, Severity.ERROR, Severity.NOTE

RATING = Rule(
    "v_belt.rating",
    "design power",
    "<=",
    W,
    "The belts are loaded over their rating",
    "Belt load is within its rating with the service factor",
    "kW",
    IP20,
    "Add a belt, or use larger pulleys or a larger section.",
    needs_load=True,
)
NO_RATING = Rule(
    "v_belt.no_rating",
    "rating of one belt",
    ">=",
    E,
    "This section has no rating on a pulley this small",
    "The section has a rating on this pulley",
    "kW",
    IP20,
    "Use a larger pulley or a smaller section.",
    limits=(0.001,),
)
SLIP = Rule(
    "v_belt.slip_at_peak",
    "pull of one belt at peak",
    "<=",
    W,
    "The belt may slip at peak torque",
    "Belt tension holds the peak torque without slip",
    "N",
    EXACT,
    "Raise the tension, or add a belt or wrap.",
    needs_load=True,
)
TENSION = Rule(
    "v_belt.tension_set",
    "tension set",
    ">=",
    W,
    "Belt tension is too low for the load",
    "Belt tension is enough for the load",
    "N",
    EXACT,
    "Tighten it, then check the deflection force again.",
    needs_load=True,
)
SPEED = Rule(
    "v_belt.speed",
    "belt speed",
    "<=",
    W,
    "Belt speed is high",
    "Belt speed is in its useful range",
    "m/s",
    SHIGLEY,
    "Use smaller pulleys.",
)
SLOW = Rule(
    "v_belt.slow",
    "belt speed",
    ">=",
    N,
    "Belt speed is low, so belt pull is high",
    "Belt speed is high enough to carry power well",
    "m/s",
    SHIGLEY,
    "Put the belt on a faster shaft.",
    about=True,
    limits=(5.0,),
)
WRAP = Rule(
    "v_belt.wrap",
    "wrap of the small pulley",
    ">=",
    W,
    "Wrap on the small pulley is low",
    "Wrap on the small pulley is good",
    "deg",
    IP20,
    "Use a longer center distance or a lower ratio.",
)
DIAMETER = Rule(
    "v_belt.least_diameter",
    "small pulley",
    ">=",
    W,
    "The small pulley is under the least diameter of the section",
    "The small pulley is large enough for the section",
    "mm",
    SECTIONS,
    "Expect short belt life: keep a spare, or use larger pulleys or a smaller section.",
)
RATIO = Rule(
    "v_belt.ratio",
    "ratio",
    "<=",
    W,
    "The ratio is large for one belt stage",
    "The ratio suits one belt stage",
    "",
    COMMON_PRACTICE,
    "Split it over two stages.",
)
CENTER_NEAR = Rule(
    "v_belt.center_near",
    "center distance",
    ">=",
    W,
    "The center distance is short",
    "The center distance is long enough",
    "mm",
    COMMON_PRACTICE,
    "Use a longer belt.",
)
TOUCH = Rule(
    "v_belt.touch",
    "center distance",
    ">=",
    E,
    "The belt is too short: the pulleys would touch",
    "The pulleys clear each other",
    "mm",
    EXACT,
    "Use a longer belt or smaller pulleys.",
)
TOO_SHORT = Rule(
    "v_belt.too_short",
    "belt pitch length",
    ">=",
    E,
    "The belt is too short to go round these pulleys",
    "The belt goes round the pulleys",
    "mm",
    EXACT,
    "Use a longer belt or smaller pulleys.",
)
CENTER_FAR = Rule(
    "v_belt.center_far",
    "center distance",
    "<=",
    W,
    "The center distance is long, so the belt may whip",
    "The span is short enough to run quietly",
    "mm",
    SHIGLEY,
    "Use a shorter belt.",
)
SERIES = Rule(
    "v_belt.series",
    "belt length",
    ">=",
    N,
    "This length is not in the standard series, but is commonly sold",
    "The belt is a stock length",
    "mm",
    COMMON_PRACTICE,
    about=True,
)
NO_BELT = Rule(
    "v_belt.no_belt",
    "belt length",
    ">=",
    N,
    "No belt is chosen yet",
    "A belt is chosen",
    "mm",
    EXACT,
    "Choose a stock belt; the center distance then follows from it.",
)
SLIDE = Rule(
    "v_belt.take_up",
    "slide of the motor base",
    ">=",
    W,
    "The base has too little slide to fit and tension the belt",
    "The base has slide enough to fit and tension the belt",
    "mm",
    ALLOWANCE,
    "Lengthen the slots or fit an idler.",
)
SLIDE_UNKNOWN = Rule(
    "v_belt.take_up",
    "slide needed",
    ">=",
    N,
    "Motor base travel is not entered",
    "Motor base travel is entered",
    "mm",
    ALLOWANCE,
    "Leave at least this much slot for installing and tensioning.",
    about=True,
)
STEPS = Rule(
    "v_belt.steps",
    "center change between steps",
    "<=",
    W,
    "The steps need different center distances",
    "One belt serves every step at one center distance",
    "mm",
    EXACT,
    "Change the step diameters, or allow this much more travel.",
)
MANY = Rule(
    "v_belt.many",
    "number of belts",
    "<=",
    W,
    "This many light-duty belts seldom share the load evenly",
    "The number of belts is ordinary",
    "",
    COMMON_PRACTICE,
    "Use a larger section.",
    limits=(4.0,),
)
FLEX = Rule(
    "v_belt.flex",
    "bends a second",
    "<=",
    W,
    "The belt bends very often",
    "The belt bends at an ordinary rate",
    "1/s",
    COMMON_PRACTICE,
    "A longer belt lasts longer; keep a spare of this one.",
)
OLD_RATING = Rule(
    "v_belt.old_rating",
    "number of belts",
    ">=",
    N,
    "The current standard is met; older tables call for more belts",
    "The current standard and older tables agree that there are enough belts",
    "",
    OLD_TABLE,
    "Use the larger number for an old or unknown belt, or in heat or oil.",
    needs_load=True,
    about=True,
)
IDLER_SOURCE = Source("Machinery's Handbook", "V-belts, idlers", "quoted from memory")
IDLER_OFF = Rule(
    "v_belt.idler_off",
    "push of the idler",
    ">=",
    E,
    "The idler does not fit this belt: it misses the span, hits a pulley or takes up too much belt",
    "The idler fits",
    "mm",
    EXACT,
    "Change how far it pushes, where it stands or its size, or use a longer belt.",
)
IDLER_SIZE = Rule(
    "v_belt.idler_size",
    "idler diameter",
    ">=",
    W,
    "The idler is small for this belt and side, which shortens belt life",
    "The idler is large enough",
    "mm",
    IDLER_SOURCE,
    "Inside: no smaller than the small pulley. On the back: a third larger than that, flat and uncrowned.",
)
IDLER_TIGHT = Rule(
    "v_belt.idler_tight",
    "strand of the idler",
    ">=",
    W,
    "The idler runs on the tight side",
    "",
    "",
    IDLER_SOURCE,
    "Put it on the slack side, where it loads the belt less.",
)
DRUM_RATIO = Rule(
    "v_belt.drum_ratio",
    "ratio",
    ">=",
    N,
    "A V-belt on a flat drum works only at a large ratio",
    "The ratio suits a V-belt on a flat drum",
    "",
    IP20,
    "Use a grooved pulley, or a larger drum.",
    about=True,
    limits=(3.0,),
)
ESTIMATE = Rule(
    "v_belt.estimate",
    "rating of all belts",
    ">=",
    N,
    "The rating of this section is estimated from similar sections",
    "",
    "kW",
    COMMON_PRACTICE,
    "Check the belt maker's rating before you order.",
    about=True,
)
CAUTIOUS = Rule(
    "v_belt.cautious_rating",
    "number of belts",
    ">=",
    N,
    "The rating is met; a more cautious rating calls for more belts",
    "A more cautious rating agrees that there are enough belts",
    "",
    COMMON_PRACTICE,
    "Use the larger number in heat or oil, or for belts of unknown make.",
    needs_load=True,
    about=True,
)
RULES = (
    IDLER_OFF,
    IDLER_SIZE,
    IDLER_TIGHT,
    DRUM_RATIO,
    ESTIMATE,
    CAUTIOUS,
    RATING,
    NO_RATING,
    SLIP,
    TENSION,
    SPEED,
    SLOW,
    WRAP,
    DIAMETER,
    RATIO,
    CENTER_NEAR,
    TOUCH,
    TOO_SHORT,
    CENTER_FAR,
    SERIES,
    NO_BELT,
    SLIDE,
    SLIDE_UNKNOWN,
    STEPS,
    MANY,
    FLEX,
    OLD_RATING,
)
