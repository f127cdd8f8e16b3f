"""What is checked on a V-belt link."""

from __future__ import annotations

from dataclasses import replace

from pulltide.core.findings import EXACT, Check, Remark, Severity, Source

IP20 = Source("RMA IP-20", "engineering standard for classical V-belts", "quoted from memory")
SHIGLEY = Source("Shigley's Mechanical Engineering Design", "section 17-3", "quoted from memory")
SECTIONS = Source("RMA IP-20 and IP-23", "least pulley of the section", "table quoted from memory")
OLD_TABLE = Source("Shigley's Mechanical Engineering Design", "Table 17-12", "table quoted from memory")
ALLOWANCE = Source("Machinery's Handbook", "V-belt center allowances", "quoted from memory, to about 0.25 in")

#: Belt speed from which pulleys want balancing. Source: Shigley, section 17-3, from memory: 5000 ft/min.
FAST_M_PER_S = 25.0
W, E, N = Severity.WARNING, Severity.ERROR, Severity.NOTE

RATING = Check(
    code="v_belt.rating",
    severity=W,
    quantity="design power",
    unit="kW",
    fact="The belts are loaded over their rating",
    clear="Belt load is within its rating with the service factor",
    base="rating of all belts",
    advice="Add a belt, or use larger pulleys or a larger section.",
    source=IP20,
    needs_load=True,
)
NO_RATING = Check(
    code="v_belt.no_rating",
    severity=E,
    quantity="rating of one belt",
    relation=">=",
    unit="kW",
    limits=(0.001,),
    fact="This section has no rating on a pulley this small",
    clear="The section has a rating on this pulley",
    advice="Use a larger pulley or a smaller section.",
    source=IP20,
)
SLIP = Check(
    code="v_belt.slip_at_peak",
    severity=W,
    quantity="pull of one belt at peak",
    unit="N",
    fact="The belt may slip at peak torque",
    clear="Belt tension holds the peak torque without slip",
    base="pull at the design tension ratio; a problem at dry friction",
    advice="Raise the tension, or add a belt or wrap.",
    source=EXACT,
    needs_load=True,
)
TENSION = Check(
    code="v_belt.tension_set",
    severity=W,
    quantity="tension set",
    relation=">=",
    unit="N",
    fact="Belt tension is too low for the load",
    clear="Belt tension is enough for the load",
    base="tension for the design pull, less 1 %",
    advice="Tighten it, then check the deflection force again.",
    source=EXACT,
    needs_load=True,
)
SPEED = Check(
    code="v_belt.speed",
    severity=W,
    quantity="belt speed",
    unit="m/s",
    fact="Belt speed is high",
    clear="Belt speed is in its useful range",
    base="25 m/s; a problem past the section's limit",
    advice="Use smaller pulleys.",
    source=SHIGLEY,
)
SLOW = Check(
    code="v_belt.slow",
    severity=N,
    quantity="belt speed",
    relation=">=",
    unit="m/s",
    limits=(5.0,),
    fact="Belt speed is low, so belt pull is high",
    clear="Belt speed is high enough to carry power well",
    advice="Put the belt on a faster shaft.",
    source=SHIGLEY,
    about=True,
)
WRAP = Check(
    code="v_belt.wrap",
    severity=W,
    quantity="wrap of the small pulley",
    relation=">=",
    unit="deg",
    limits=(120.0, 90.0),
    fact="Wrap on the small pulley is low",
    clear="Wrap on the small pulley is good",
    advice="Use a longer center distance or a lower ratio.",
    source=IP20,
)
DRUM_WRAP = replace(WRAP, quantity="wrap of the small pulley, beside a flat drum", limits=(105.0, 83.0))
DIAMETER = Check(
    code="v_belt.least_diameter",
    severity=W,
    quantity="small pulley",
    relation=">=",
    unit="mm",
    fact="The small pulley is under the least diameter of the section",
    clear="The small pulley is large enough for the section",
    limits=(1.0, 0.7),
    base="least pulley of the section",
    advice="Expect short belt life: keep a spare, or use larger pulleys or a smaller section.",
    source=SECTIONS,
)
RATIO = Check(
    code="v_belt.ratio",
    severity=N,
    quantity="ratio",
    fact="The ratio is large for one belt stage",
    clear="The ratio suits one belt stage",
    limits=(6.0, 8.0),
    levels=(N, W),
    advice="Split it over two stages.",
)
DRUM_MOST = replace(RATIO, limits=(12.0,))
CENTER_NEAR = Check(
    code="v_belt.center_near",
    severity=W,
    quantity="center distance",
    relation=">=",
    unit="mm",
    fact="The center distance is short",
    clear="The center distance is long enough",
    base="larger pulley; at least (larger + 3 × smaller) ÷ 2",
    advice="Use a longer belt.",
)
TOUCH = Check(
    code="v_belt.touch",
    severity=E,
    quantity="center distance",
    relation=">=",
    unit="mm",
    fact="The belt is too short: the pulleys would touch",
    clear="The pulleys clear each other",
    base="half of both outside diameters",
    advice="Use a longer belt or smaller pulleys.",
    source=EXACT,
)
TOO_SHORT = Check(
    code="v_belt.too_short",
    severity=E,
    quantity="belt pitch length",
    relation=">=",
    unit="mm",
    fact="The belt is too short to go round these pulleys",
    clear="The belt goes round the pulleys",
    base="path round the pulleys",
    advice="Use a longer belt or smaller pulleys.",
    source=EXACT,
)
CENTER_FAR = Check(
    code="v_belt.center_far",
    severity=W,
    quantity="center distance",
    unit="mm",
    fact="The center distance is long, so the belt may whip",
    clear="The span is short enough to run quietly",
    limits=(3.0,),
    base="sum of the pitch diameters",
    advice="Use a shorter belt.",
    source=SHIGLEY,
)
NO_BELT = Remark(
    code="v_belt.no_belt",
    severity=N,
    quantity="belt length",
    unit="mm",
    fact="No belt is chosen yet",
    advice="Choose a stock belt; the center distance then follows from it.",
    source=EXACT,
)
SLIDE = Check(
    code="v_belt.take_up",
    severity=W,
    quantity="slide of the motor base",
    relation=">=",
    unit="mm",
    fact="The base has too little slide to fit and tension the belt",
    clear="The base has slide enough to fit and tension the belt",
    base="fitting and take-up allowance of the belt, and what its steps differ by",
    advice="Lengthen the slots or fit an idler.",
    source=ALLOWANCE,
)
SLIDE_UNKNOWN = Remark(
    code="v_belt.take_up",
    severity=N,
    quantity="slide needed",
    unit="mm",
    fact="Motor base travel is not entered",
    advice="Leave at least this much slot for installing and tensioning.",
    source=ALLOWANCE,
    about=True,
)
STEPS = Check(
    code="v_belt.steps",
    severity=W,
    quantity="center change between steps",
    unit="mm",
    fact="The steps need different center distances",
    clear="One belt serves every step at one center distance",
    base="belt length × 0.3 %, or the slide that is left over",
    advice="Change the step diameters, or allow this much more travel.",
    source=EXACT,
)
MANY = Check(
    code="v_belt.many",
    severity=W,
    quantity="number of belts",
    limits=(4.0,),
    fact="This many light-duty belts seldom share the load evenly",
    clear="The number of belts is ordinary",
    advice="Use a larger section.",
)
FLEX = Check(
    code="v_belt.flex",
    severity=N,
    quantity="bends a second",
    unit="1/s",
    fact="The belt bends very often",
    clear="The belt bends at an ordinary rate",
    limits=(30.0, 60.0),
    levels=(N, W),
    advice="A longer belt lasts longer; keep a spare of this one.",
)
OLD_RATING = Check(
    code="v_belt.old_rating",
    severity=N,
    quantity="number of belts",
    relation=">=",
    fact="The current standard is met; older tables call for more belts",
    clear="The current standard and older tables agree that there are enough belts",
    base="belts by the older tables",
    advice="Use the larger number for an old or unknown belt, or in heat or oil.",
    source=OLD_TABLE,
    needs_load=True,
    about=True,
)
IDLER_SOURCE = Source("Machinery's Handbook", "V-belts, idlers", "quoted from memory")
PLATE_OFF = Remark(
    code="v_belt.plate_off",
    severity=E,
    quantity="hinged plate",
    fact="The plate cannot tighten this belt: it runs at the hinge, or the load tightens it without end",
    advice="Move the hinge sideways, or turn the motor the other way.",
    source=EXACT,
)
PLATE_UNKNOWN = Remark(
    code="v_belt.plate_unknown",
    severity=N,
    quantity="hinged plate",
    fact="The plate's tension is not known until its mass, arm, hinge and tight strand are entered",
    advice="Weigh motor and plate, and measure from the hinge.",
)
IDLER_OFF = Remark(
    code="v_belt.idler_off",
    severity=E,
    quantity="push of the idler",
    unit="mm",
    fact="The idler does not fit this belt: it misses the span, hits a pulley or takes up too much belt",
    advice="Change how far it pushes, where it stands or its size, or use a longer belt.",
    source=EXACT,
)
IDLER_SIZE = Check(
    code="v_belt.idler_size",
    severity=W,
    quantity="idler diameter",
    relation=">=",
    unit="mm",
    fact="The idler is small for this belt and side, which shortens belt life",
    clear="The idler is large enough",
    base="small pulley inside the belt; on the back, the larger of 1.33 × that and 1.5 × the section's least pulley",
    advice="Inside: no smaller than the small pulley. On the back: a third larger than that, flat and uncrowned.",
    source=IDLER_SOURCE,
)
IDLER_TIGHT = Remark(
    code="v_belt.idler_tight",
    severity=W,
    quantity="strand of the idler",
    fact="The idler runs on the tight side",
    advice="Put it on the slack side, where it loads the belt less.",
    source=IDLER_SOURCE,
)
DRUM_RATIO = Check(
    code="v_belt.drum_ratio",
    severity=N,
    quantity="ratio",
    relation=">=",
    limits=(3.0,),
    fact="A V-belt on a flat drum works only at a large ratio",
    clear="The ratio suits a V-belt on a flat drum",
    advice="Use a grooved pulley, or a larger drum.",
    source=IP20,
    about=True,
)
ESTIMATE = Remark(
    code="v_belt.estimate",
    severity=N,
    quantity="rating of all belts",
    unit="kW",
    fact="The rating of this section is estimated from similar sections",
    advice="Check the belt maker's rating before you order.",
    about=True,
)
CAUTIOUS = Check(
    code="v_belt.cautious_rating",
    severity=N,
    quantity="number of belts",
    relation=">=",
    fact="The rating is met; a more cautious rating calls for more belts",
    clear="A more cautious rating agrees that there are enough belts",
    base="belts by the more cautious rating",
    advice="Use the larger number in heat or oil, or for belts of unknown make.",
    needs_load=True,
    about=True,
)
RULES = (
    PLATE_OFF,
    PLATE_UNKNOWN,
    IDLER_OFF,
    IDLER_SIZE,
    IDLER_TIGHT,
    DRUM_RATIO,
    DRUM_MOST,
    ESTIMATE,
    CAUTIOUS,
    RATING,
    NO_RATING,
    SLIP,
    TENSION,
    SPEED,
    SLOW,
    WRAP,
    DRUM_WRAP,
    DIAMETER,
    RATIO,
    CENTER_NEAR,
    TOUCH,
    TOO_SHORT,
    CENTER_FAR,
    NO_BELT,
    SLIDE,
    SLIDE_UNKNOWN,
    STEPS,
    MANY,
    FLEX,
    OLD_RATING,
)
