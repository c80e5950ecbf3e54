import { format, formatPercent, formatSize } from "#contract/units/format.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import { findPipeStock } from "#core/catalogue/pipes.ts";
import { LIMITS, type Severity } from "#core/check/check.ts";
import { FLOATS_IN } from "#core/check/intake.ts";
import type { Misplacement } from "#core/check/placing.ts";
import type { CheckCode, Judgement } from "#core/check/registry.ts";
import type { TooFast } from "#core/check/slowerSize.ts";
import type { PathItem } from "#core/line/path.ts";
import { FOOT } from "#core/quantity/constants.ts";
import type { SettingRule } from "#core/well/setting.ts";
import { duration } from "./duration.ts";
import { itemName, waterOf } from "./items.ts";

/** A judgement in words: a headline, what and how much, and what would mend it. */
export interface CheckWords {
  title: string;
  sentence: string;
  /** absent where nothing needs mending */
  advice?: string;
}

/** How one judgement's numbers and places are said. */
interface Voice {
  /** in the judgement's own quantity */
  value: string;
  limit: string;
  /** the water's state, such as "low water" */
  water: string;
  /** the item it is about, and any other by its id */
  item: string;
  name: (id: string) => string;
  bad: boolean;
  head: (si: number) => string;
  flow: (si: number) => string;
  pressure: (si: number) => string;
  velocity: (si: number) => string;
  diameter: (si: number) => string;
  volume: (si: number) => string;
  /** a diameter as the trade says it */
  size: (si: number) => string;
  /** a velocity so small that it wants two digits more */
  creep: (si: number) => string;
}

type Said = [title: string, sentence: string, advice?: string];
type Words = {
  [C in CheckCode]: (judgement: Extract<Judgement, { code: C }>, say: Voice) => Said;
};

export function checkWords(
  judgement: Judgement,
  { path, source }: { path: readonly PathItem[]; source: { kind: string } },
  system: UnitSystem,
): CheckWords {
  const { quantity, itemId, limit = 0 } = judgement;
  const show = (kind: typeof quantity) => (si: number) =>
    kind === "ratio" ? formatPercent(si) : format(si, kind, system);
  const say: Voice = {
    value: show(quantity)(judgement.value),
    limit: show(quantity)(limit),
    water: waterOf(source)[judgement.at],
    item: itemId ? itemName(path, itemId, system) : "the line",
    name: (id) => itemName(path, id, system),
    bad: judgement.severity !== "good",
    head: show("head"),
    flow: show("flow"),
    pressure: show("pressure"),
    velocity: show("velocity"),
    diameter: show("diameter"),
    volume: show("volume"),
    size: (si) => formatSize(si, system, "nearest"),
    creep: (si) => (system === "us" ? `${(si / FOOT).toFixed(2)} ft/s` : `${si.toFixed(3)} m/s`),
  };
  const tell = WORDS[judgement.code] as (own: Judgement, say: Voice) => Said;
  const [title, sentence, advice] = tell(judgement, say);
  return say.bad && advice ? { title, sentence, advice } : { title, sentence };
}

/** One entry a check: the compiler names what is missing. */
const WORDS: Words = {
  "pump-placement": ({ facts }, say) => [
    MISPLACED[facts.why].title,
    `${say.item}: ${MISPLACED[facts.why].sentence}`,
    MISPLACED[facts.why].advice,
  ],
  "pump-width": ({ severity }, say) =>
    severity === "unknown"
      ? [
          "Its width is not known",
          `${say.item} has to pass ${say.limit}, and its plate does not say how wide it is.`,
          "Measure it before it goes down.",
        ]
      : severity === "watch"
        ? [
            "Little room on its way down",
            `${say.item} is ${say.value} across in a casing of ${say.limit}: scale or a bend may hold it.`,
            "Run a dummy of its width and length down first, or choose a slimmer pump.",
          ]
        : [
            say.bad ? "Too wide for the way in" : "It fits the way in",
            `${say.item} is ${say.value} across; the way in is ${say.limit}.`,
            "Choose a slimmer pump, or another way in.",
          ],
  "pump-passage": ({ severity }, say) =>
    severity === "unknown"
      ? [
          "What it passes is not known",
          `This water asks for a passage of ${say.limit}, and the plate of ${say.item.toLowerCase()} does not say what it passes.`,
          "Choose a pump that tells, or screen the water.",
        ]
      : [
          say.bad ? "It will clog" : "It passes what is in the water",
          `${say.item} passes ${say.value}; this water asks for ${say.limit}.`,
          "Choose a pump with a wider passage, or screen the water. Unplug it and lock it off before a hand goes near the impeller.",
        ],
  "water-too-shallow": ({ severity }, say) =>
    severity === "unknown"
      ? [
          "Whether it is covered enough is not known",
          `${say.value} of water stand over ${say.item.toLowerCase()} at ${say.water}, and its plate does not say what it needs.`,
          "Look it up: a motor that is not covered is not cooled.",
        ]
      : [
          say.bad ? "Too little water round it" : "Covered enough",
          `At ${say.water} ${say.value} stand over ${say.item.toLowerCase()}; it needs ${say.limit}.`,
          "Set it deeper, or choose a pump made for a floor: a motor that is not covered overheats.",
        ],
  "water-too-deep": ({ severity }, say) =>
    severity === "unknown"
      ? [
          "How deep it may stand is not known",
          `${say.value} of water stand over ${say.item.toLowerCase()} at ${say.water}, and its plate does not say what it bears.`,
          "Look it up before it goes down: seals and cable have their limit.",
        ]
      : [
          say.bad ? "Too deep for it" : "Not too deep for it",
          `At ${say.water} ${say.value} stand over ${say.item.toLowerCase()}; it bears ${say.limit}.`,
          "Set it higher, or choose one made for that depth.",
        ],
  "water-too-warm": ({ severity }, say) =>
    severity === "unknown"
      ? [
          "Whether it may be so warm is not known",
          `The water has ${say.value}, and the plate of ${say.item.toLowerCase()} does not say what it takes.`,
          "Look it up: seals and motor are made for cool water.",
        ]
      : [
          say.bad ? "The water is too warm for it" : "Cool enough for it",
          `The water has ${say.value}; ${say.item.toLowerCase()} takes ${say.limit}.`,
          "Let it cool, or choose a pump made for it.",
        ],
  "gun-pressure": ({ facts }, say) =>
    facts.side === "within"
      ? ["The gun throws as it should", `${say.value} at its base.`]
      : facts.side === "under"
        ? [
            "The gun will not throw",
            `At ${say.water} ${say.value} stand at its base; it needs ${say.limit}. Under that the water falls in a ring.`,
            "Lay a larger hose, fit a smaller nozzle, or choose a pump with more pressure.",
          ]
        : [
            "The gun mists",
            `At ${say.water} ${say.value} stand at its base; above ${say.limit} the jet breaks up and drifts.`,
            "Slow the pump, throttle it, or fit a larger nozzle. Never look into a gun, and keep it off power lines.",
          ],
  "cannot-lift": ({ facts, value, itemId }, say) =>
    itemId === undefined
      ? [
          "The pressure falls short",
          `At ${say.water} the source would have to push ${say.value} more before any water moves.`,
          "A pump in the line, more pressure at the source, or a lower outlet.",
        ]
      : facts.short === "holes"
        ? [
            "All of it is lost on the way",
            `At ${say.water} what this pump moves leaves by the hole or leak: where the way to the outlet goes on, ${say.value} of head are missing.`,
            "Mend the leak, or make the hole smaller; then look again.",
          ]
        : facts.short === "friction"
          ? [
              "Cannot push through",
              `At ${say.water} this pump could lift the ${say.head(facts.staticHead)} alone, but its curve droops: at no flow does it make what lift and friction ask together. At the closest it is ${say.value} short.`,
              "Lay a larger size, or choose a pump with more head.",
            ]
          : [
              "Cannot lift",
              `At ${say.water} the line asks for ${say.head(facts.staticHead)} before any water moves; this pump makes at most ${say.head(facts.bestHead)}.`,
              value > 0
                ? `It is ${say.value} short. Choose a pump with more head, or lower the outlet.`
                : "Nothing is left to move water with. Choose a pump with more head, or lower the outlet.",
            ],
  "pump-held-shut": ({ facts }, say) => [
    `${say.item} adds nothing`,
    `At ${say.water} the others hold ${say.head(facts.staticHead)} against it; it makes ${say.head(facts.bestHead)}, and ${facts.guarded ? "its check valve stays shut" : "no check valve holds the others’ water from it: what runs back through it is still counted in the flow delivered here"}.`,
    facts.guarded
      ? "It churns and heats its water. Match the pumps, or run them one at a time."
      : "Fit a check valve of its own before it runs beside them. Match the pumps, or run them one at a time.",
  ],
  "below-curve": ({ facts }, say) => [
    "Below the published curve",
    `At ${say.water} the line asks for ${say.limit} at ${say.flow(facts.firstFlow)}, where the published curve starts with ${say.head(facts.firstHead)}.`,
    "Choose a pump with more head: what this one does at less flow is not published.",
  ],
  "beyond-curve": ({ facts }, say) => [
    "Runs out past its curve",
    `At ${say.water} the pump still has head to spare at ${say.value}, the last published flow: it makes ${say.head(facts.lastHead)} and the line takes ${say.head(facts.headNeeded)}.`,
    "Throttle the discharge, or choose a pump for more flow and less head. Run-out overloads motors.",
  ],
  "two-crossings": ({ facts }, say) => [
    facts.startsFromRest ? "Two possible duties" : "It may not get going",
    `At ${say.water} the drooping curve meets the line more than once: ${say.limit} is unstable, ${say.value} holds${facts.sticksAt === null ? "" : `, and from rest it sticks at ${say.flow(facts.sticksAt)}`}.`,
    facts.startsFromRest
      ? "Watch for hunting when the valve is nearly shut."
      : "From rest it cannot push the water over. Start with the line full and drained of back pressure, or choose a pump whose curve falls all the way.",
  ],
  "backflow-unguarded": (_, say) => [
    `${say.item} has no check valve of its own`,
    `When it stands, the others drive water back through it and spin it the wrong way; ${say.value} of its own pipe empties too.`,
    "Fit a check valve between it and the place where the lines meet.",
  ],
  "branch-runs-back": ({ facts }, say) => [
    "Water runs back through a branch",
    `${say.value} runs against the path through ${say.item} at ${say.water}: ${facts.why === "outlet" ? "a higher outlet empties into a lower one" : "what is pumped comes back past the pumps"}.`,
    facts.why === "outlet"
      ? "Fit a check valve in that branch, or bring the outlets to one height."
      : "Fit a check valve in that branch.",
  ],
  "drain-floods": ({ facts }, say) => [
    "Floods an open drain",
    `${say.value} comes up over the rim of ${say.item} at ${say.water}, ${formatPercent(facts.share)} of what is pumped: the pumped line stands under more pressure there than the rim is high.`,
    "Part them: give the drain a line of its own to the pit or the street. Raising its rim helps only while nothing else changes.",
  ],
  "outlet-dry": ({ facts }, say) => [
    "An outlet gets no water",
    `Nothing comes out of ${say.item} at ${say.water}: ${facts.shut ? "a valve on its way is shut" : `it asks for ${say.head(facts.asked)}, and where its way leaves the head reaches ${say.head(facts.reached)}`}.`,
    facts.shut
      ? "Open the valve, or take this branch out of the job."
      : "Lay the way to it larger, lower it, or throttle the other outlets.",
  ],
  "outlets-uneven": ({ facts }, say) => [
    say.bad ? "Outlets share unevenly" : "Outlets share evenly",
    `${say.item} passes ${say.flow(facts.least)} at ${say.water}, the strongest ${say.flow(facts.most)}: ${say.value} of it.`,
    "Lay the weak branch larger, throttle the strong one, or run them in turn.",
  ],
  siphons: ({ facts }, say) =>
    facts.below >= facts.fall - 0.01
      ? [
          "Siphons",
          `The outlet lies ${say.head(facts.below)} below ${say.water}: about ${say.value} runs through with the pump off, once the line is full.`,
          "Break the siphon with an air inlet at the top of the line, or fit a valve.",
        ]
      : [
          "Runs with the pump off",
          `Pressure at the ends drives about ${say.value} through at ${say.water} with the pump off: ${say.head(facts.fall)} of head, though the outlet lies ${say.head(Math.abs(facts.below))} ${facts.below < 0 ? "above" : "below"} the water.`,
          "Fit a valve that shuts when the pump stops.",
        ],
  "wanted-flow": ({ value, limit = 0 }, say) => [
    say.bad ? "Less flow than wanted" : "Delivers what is wanted",
    `${say.value} at ${say.water}; wanted ${say.limit}${value >= limit ? "." : `, ${formatPercent(1 - value / limit)} short.`}`,
    "Lay a larger size where the ledger shows most head, or choose a pump that moves more here: What if solves each.",
  ],
  "intake-uncovered": ({ facts }, say) => [
    "Intake above the water",
    `The intake is at ${say.head(facts.intake)} and ${say.water} is at ${say.head(facts.level)}: the pump would draw air.`,
    `Lower the intake by at least ${say.value}, and keep it covered.`,
  ],
  "pump-not-under-water": (_, say) => [
    "Submersible pump out of the water",
    `The pump stands ${say.value} above ${say.water}.`,
    "Lower it under the water: a submersible neither draws water up nor cools itself in air.",
  ],
  "suction-lift-barometric": ({ severity, value, limit = 0 }, say) => [
    liftTitle(severity, "air pressure", "the barometric limit"),
    `Suction lifts ${say.value} at ${say.water}, friction counted; air pressure here holds ${say.limit} at the very most.`,
    adviceOnLift(value, limit, say.head),
  ],
  "suction-lift-pump": ({ severity, value, limit = 0 }, say) => [
    liftTitle(severity, "the pump", "the pump’s limit"),
    `Suction lifts ${say.value} at ${say.water}, friction counted; at this altitude and water temperature the pump holds ${say.limit}.`,
    adviceOnLift(value, limit, say.head),
  ],
  "suction-boils": ({ facts }, say) => [
    "Suction pressure too low",
    `At ${say.water} the flow would take ${say.value} at ${say.name(facts.where)}; water boils at ${say.limit}, and the pump never gets it.`,
    "Lower the high point of the suction, shorten it, or lay it larger.",
  ],
  "npsh-margin": ({ severity }, say) => [
    severity === "unknown"
      ? "Suction cannot be judged"
      : say.bad
        ? "NPSH margin thin"
        : "NPSH margin",
    severity === "unknown"
      ? `${say.value} of NPSH available at ${say.water}; what the pump needs at this flow is not published, nor how high it may draw.`
      : `${say.value} available at ${say.water}; the pump needs ${say.limit}.`,
    severity === "unknown"
      ? "Ask its maker, and type it with the pump."
      : "Lower the pump, or lay the suction shorter and larger, before it cavitates.",
  ],
  "suction-velocity": ({ facts }, say) => [
    say.bad ? "Suction too fast" : "Suction velocity",
    `${say.value} in ${say.item} at ${say.water}; keep suction at or below ${say.limit}.`,
    layIn(
      facts,
      "No stocked size of it is slow enough on this pump: throttle the discharge, or lay other pipe.",
    ),
  ],
  "discharge-velocity-high": ({ facts }, say) => [
    "Discharge too fast",
    `${say.value} in ${say.item} at ${say.water}; above ${say.limit} friction and surge grow quickly.`,
    layIn(
      facts,
      "A larger size of it lets so much more through that it runs no slower: throttle the line, or lay other pipe.",
    ),
  ],
  "discharge-velocity-low": (_, say) => [
    "Discharge slow",
    `${say.value} in ${say.item} at ${say.water}; below ${say.limit} grit settles in the line.`,
    "A smaller size would carry grit along, at the price of head. With clean water this may stand.",
  ],
  "discharge-velocity": ({ facts }, say) => [
    "Discharge velocity",
    `${say.velocity(facts.slowest) === say.value ? "" : `${say.velocity(facts.slowest)} to `}${say.value} along the line at ${say.water}, inside ${say.velocity(LIMITS.dischargeVelocityLow)} to ${say.limit}.`,
  ],
  "check-valve-flutters": (_, say) => [
    "Valve may flutter",
    `${say.value} through ${say.item} at ${say.water}; its disc stays fully open from ${say.limit}.`,
    "Fit a smaller or a spring-loaded check valve, or accept some wear and noise.",
  ],
  "pressure-rating": ({ facts, severity }, say) => [
    RATED[severity],
    `Dead-headed at ${say.water}, the outlet shut, ${say.item} sees ${say.value}${whileRunning(facts.running, say)}; it is rated ${say.limit} at this water temperature.${facts.inWater ? " The water outside it is taken off." : ""}${facts.shutoffUnknown ? " The shut-off head is not published, so the true pressure is higher." : ""}`,
    severity === "unknown"
      ? "Ask the maker for the shut-off head, or make sure that the outlet cannot be shut."
      : "Use pipe of a higher rating, or make sure that the outlet cannot be shut.",
  ],
  "motor-cooling": ({ severity, facts, value, limit = 0 }, say) => {
    const { within, bore, motor, needs, sleeve, slotted, plate } = facts;
    const round = within === "sleeve" ? "sleeve" : "casing";
    if (plate !== null && needs === plate && !(severity === "watch" && slotted)) {
      return [
        say.bad ? "Too little water to cool its motor" : "Its motor is cooled",
        `${say.bad ? "Less" : "More"} runs through ${say.item.toLowerCase()} at ${say.water} than the ${say.flow(plate)} its plate asks for.`,
        "A pump with a smaller least flow, or more flow through this one.",
      ];
    }
    if (severity === "unknown" && bore === null) {
      return [
        "Whether its motor is cooled is not known",
        `Nothing is told of the casing where ${say.item.toLowerCase()} hangs; water has to pass its motor at ${say.creep(limit)}.`,
        "Measure the casing’s bore there, and type it with the well.",
      ];
    }
    if (severity === "unknown" || bore === null) {
      return [
        "Whether its motor is cooled is not known",
        `The ${round} is ${say.diameter(bore ?? 0)} across and the width of ${say.item.toLowerCase()} is not known: the water passes it at ${say.creep(value)} or faster; it needs ${say.creep(limit)}.`,
        "Measure across the motor and enter it with the pump.",
      ];
    }
    if (needs === null) {
      return [
        `Too wide for its ${round}`,
        `${say.item} is ${say.diameter(motor ?? 0)} across, its ${round} ${say.diameter(bore)}: no water passes the motor.`,
        within === "sleeve"
          ? SLEEVE
          : "A slimmer pump goes down a casing that scale or a liner has narrowed.",
      ];
    }
    const passes = `In a ${round} of ${say.diameter(bore)} the water passes ${say.item.toLowerCase()} at ${say.creep(value)} at ${say.water}; it needs ${say.creep(limit)}, which is ${say.flow(needs)}.`;
    if (severity === "watch" && slotted) {
      return [
        "Water may come in above the motor",
        `${passes} The slots reach up past it, so that some may never pass it.`,
        "A sleeve round the motor makes all of it pass.",
      ];
    }
    return [
      say.bad ? "Too little water past the motor" : "Its motor is cooled",
      passes,
      within === "sleeve"
        ? SLEEVE
        : sleeve === null
          ? "No sleeve that goes down here cools it at this flow: a slimmer motor, or a smaller pump."
          : `A sleeve of ${say.size(sleeve)} round the motor cools it at this flow.`,
    ];
  },
  "water-unfit": ({ facts }, say) =>
    facts.kind === "foul"
      ? [
          "Foul water leaves here",
          `${say.value} of it at ${say.water}. It is not for the storm drain, a ditch or a well’s surroundings, and harms whoever touches it.`,
          "Ask who may allow it where it goes, and write it down. Gloves, eye protection, and wash before eating.",
        ]
      : [
          "Chlorinated water leaves here",
          `${say.value} of it at ${say.water}. It kills what lives in a stream or pond, and is not for the storm drain.`,
          "Let it stand until the chlorine is gone, or ask who may allow it where it goes.",
        ],
  "well-dry": ({ severity, facts, value }, say) => {
    const { flow, drawdown, gives, testedTo } = facts;
    const past =
      testedTo !== null && flow > testedTo
        ? ` (by its curve past the ${say.flow(testedTo)} that were tested)`
        : "";
    const drawn = `${say.flow(flow)} draws the water down by ${say.head(drawdown)} at ${say.water}${past}`;
    const endless = Number.isFinite(gives) && gives > 0 ? say.flow(gives) : undefined;
    if (severity === "stop") {
      return [
        "The well is pumped dry",
        `${drawn}: ${say.head(-value)} below the intake. ${endless ? `With 3 ft (0.9 m) left over the intake it gives ${endless}.` : "There is no room for any drawdown."}`,
        "A smaller pump or a valve in the line, the pump hung lower where its window lets it, or a guard that stops it and a tank to live on meanwhile.",
      ];
    }
    if (severity === "unknown" && testedTo === null && flow === 0) {
      return [
        "What pumping draws down is not known",
        `The standing water is ${say.value} over the intake at ${say.water}.`,
        "Pump it at a known flow until the level stays, dip it, and type flow and level: one step is enough to begin with.",
      ];
    }
    if (severity === "unknown") {
      return [
        "Above the flow that was tested",
        `${drawn}: above that the drawdown is not known.`,
        "Test it at this flow or more before the pump is chosen by it.",
      ];
    }
    return [
      "The well keeps up",
      `${drawn}: ${say.value} stay over the intake${endless ? `, and it gives ${endless} with 3 ft (0.9 m) left` : ""}.`,
    ];
  },
  "well-setting": ({ severity, facts }, say) => {
    const { depth, from, to, rule, other, missing } = facts;
    const between =
      to === null
        ? `at ${say.head(from)} or below`
        : `between ${say.head(from)} and ${say.head(to)}`;
    const down = `The intake hangs ${say.head(depth)} down`;
    if (to !== null && to < from) {
      return [
        "No depth is left for the pump",
        `It must hang ${say.head(from)} down or more (${other ? RULES[other] : "the water"}), and no lower than ${say.head(to)} (${rule ? RULES[rule] : "the well"}): ${say.head(from - to)} are missing.`,
        rule === "above-screen"
          ? "A sleeve round the motor lets it hang in the screen; or a smaller flow, which draws the water down less."
          : rule === "casing"
            ? "A slimmer pump passes what is narrow; or a smaller flow, which draws the water down less."
            : "A smaller flow draws the water down less. Deepening a well belongs to a licensed well contractor.",
      ];
    }
    const advice = `Hang it ${between}.`;
    if (rule === "under-water") {
      return [
        "Too little water over the pump",
        `${down}; with 3 ft (0.9 m) over it at the lowest pumping level it hangs at ${say.head(from)} or below.`,
        advice,
      ];
    }
    if (rule) return ["Hung too deep", `${down}, below ${say.limit}: ${RULES[rule]}.`, advice];
    const lacks = missing.filter((own) => own === "bottom" || own === "pumping-level");
    if (severity === "unknown") {
      return [
        "Where the pump may hang is not known",
        `${down}. ${lacks.map((own) => LACKS[own]).join(" ")}`,
        "Measure it before the drop pipe is cut; a licensed well contractor knows how.",
      ];
    }
    return [
      "Depth of the pump",
      `${down}; it may hang ${between}.${missing.includes("immersion") ? " How much water it bears over it is not on its plate." : ""}`,
    ];
  },
  "cut-out-reached": ({ severity }, say) => {
    if (severity === "unknown") {
      return [
        "Whether it reaches its cut-out is not known",
        `Its curve begins at ${say.value} at the tank; the switch stops it at ${say.limit}, and its shut-off head is not published.`,
        "Ask its maker for the shut-off head.",
      ];
    }
    return [
      say.bad
        ? severity === "stop"
          ? "It never reaches its cut-out"
          : "It barely reaches its cut-out"
        : "It reaches its cut-out",
      `The most it makes at the tank is ${say.value} at ${say.water}; the switch stops it at ${say.limit}.`,
      severity === "stop"
        ? "It would run on without end against a full tank and cook its motor: a lower cut-out, or a pump with more head."
        : "Wear, or a drier year, leaves it running: a little less cut-out.",
    ];
  },
  "pressure-rating-unknown": ({ facts }, say) => [
    facts.gravityPipe ? "Gravity pipe under pressure" : "Pressure rating not known",
    `Dead-headed at ${say.water}, the outlet shut, ${say.item} sees ${say.value}${whileRunning(facts.running, say)}; no rating is stocked for it at this water temperature.`,
    facts.gravityPipe
      ? "Pipe made for gravity flow has no business on a pump. Lay pressure pipe."
      : "Read the rating off the pipe and its joints before filling the line.",
  ],
  "hole-wastes": ({ facts }, say) => [
    facts.leaks ? "Leaks" : "Vent hole’s share",
    `${say.value} is lost at ${say.water}, ${formatPercent(facts.share, 1)} of what is pumped.`,
    facts.leaks
      ? "Mend the leak: tighten the clamp, or replace the joint."
      : facts.smaller
        ? `A vent hole of 3 mm (1/8 in) lets the air out too, and wastes ${formatPercent(facts.smaller, 1)}.`
        : "It is as small as lets the air out: what it wastes is counted in the flow.",
  ],
  "hole-misplaced": ({ facts }, say) =>
    facts.why === "above-check"
      ? [
          "Vent hole in the wrong place",
          `${say.item} is above the check valve: air caught between a pump and its own check valve cannot leave by it, and it only wastes water.`,
          "Drill it between each pump and its own check valve, a few inches above the pump, slanting down so that it sprays into the pit.",
        ]
      : [
          "Vent hole without a check valve",
          `${say.item} has no check valve above it: air leaves by the line itself, and the hole only wastes water.`,
          "Leave the hole out, or fit a check valve above it.",
        ],
  "air-lock": ({ value }, say) => [
    "No vent hole under the check valve",
    `At its lowest the water stands ${value > 0 ? `${say.value} over` : `${say.head(-value)} under`} the intake of ${say.item}: that may leave it bare between runs. Air it takes in cannot leave under its check valve, and it hums and moves nothing.`,
    "Drill a hole of 3 to 5 mm (1/8 to 3/16 in) in the riser, a few inches above the pump and below the check valve, slanting down at 45° so that it sprays into the water and clear of the cover. Clean it every year. Isolate and lock off first.",
  ],
  "outlet-floods": ({ facts }, say) => [
    "Outlet under high water",
    `The pipe ends at ${say.head(facts.outlet)} and the receiving water rises to ${say.head(facts.level)}: silt and water come back when the pump stands.`,
    "Raise the outlet above high water, fit a check valve, or clean it every year.",
  ],
  surge: ({ facts }, say) => [
    say.bad ? "A sudden stop overloads the pipe" : "Surge within the rating",
    `Stopped suddenly at ${say.water}, ${say.item} sees ${say.value}, of which ${say.pressure(facts.rise)} is surge; it is rated ${say.limit}.`,
    "Close valves slowly, fit a spring-loaded check valve, or lay a larger or stronger pipe.",
  ],
  submergence: (_, say) => [
    say.bad ? "Intake may draw air" : "Intake deep enough",
    `${say.value} of water over the intake at ${say.water}; ${say.limit} keeps a vortex away.`,
    "Lower the intake, widen its mouth, or float a board over it.",
  ],
  "loses-prime": (_, say) => [
    say.bad ? "Loses its prime when stopped" : "Foot valve holds the prime",
    `The suction line holds ${say.value}${say.bad ? ", and nothing keeps it there." : ": fill it before the first start."}`,
    "Fit a foot valve, or a pump that primes itself each time, and keep every joint air-tight.",
  ],
  "priming-time": ({ facts, value, limit = 0 }, say) => [
    say.bad ? "Long to prime" : "Primes in minutes",
    `Where it primes itself, ${say.item.toLowerCase()} takes about ${spell(value)} to clear ${say.volume(facts.air)} of air at low water, if it moves a fiftieth of its greatest flow as air; ${spell(facts.least)} to ${spell(facts.most)} from pump to pump. Fill its casing first.`,
    `With no water after ${spell(limit)}, stop: the seal runs dry. Shorten or narrow the suction line, or fit a foot valve and fill it by hand.`,
  ],
  "floating-hose": (_, say) => [
    say.bad ? "The floating intake cannot follow the water" : "The floating intake can follow",
    `${say.value} of flexible hose behind it; it takes ${say.limit} to go down with the water. It needs ${say.head(FLOATS_IN)} of water under it.`,
    "Put flexible hose next to the intake, before anything stiff.",
  ],
  "drains-back": ({ facts }, say) => [
    "Line runs back at each stop",
    facts.fromTank
      ? `No check valve, and the outlet lies under the water it empties into: ${say.value} in the pipe run back through the pump when it stops, and after that all the water over the outlet.`
      : `No check valve: ${say.value} runs back through the pump when it stops, and may spin it backwards.`,
    "Fit a check valve above the pump, arrow up.",
  ],
  "traps-air": ({ facts }, say) => [
    facts.suction ? "Suction has a hump that traps air" : "Line has a hump that traps air",
    `The line rises to ${say.value} after ${say.item} and falls again.`,
    facts.suction
      ? "Lay the suction rising all the way to the pump."
      : "Take the hump out, or fit an air valve at its top.",
  ],
  "discharge-under-suction": ({ facts }, say) =>
    facts.breaks
      ? [
          "The column breaks over the hill",
          `At ${say.water} the fall behind ${say.item} would pull ${say.value} there; under ${say.limit} water boils and the column parts. The flow is that up to the hill: what lies beyond does not help, and nothing siphons over it.`,
          "Let air in at the top so that it falls open, or hold the line full with a valve near the outlet.",
        ]
      : [
          "Part of the discharge is under suction",
          `The pressure falls to ${say.value} at ${say.item} at ${say.water}: joints may draw air and lay-flat collapses.`,
          "Let air in at the top, or hold the line full with a valve near the outlet.",
        ],
  "operating-region": ({ facts, value }, say) => [
    say.bad ? "Away from its best region" : "In its best region",
    `${facts.several ? `${say.item} runs` : "Runs"} at ${say.value} of best-efficiency flow (${say.flow(facts.bestFlow)}${facts.guessed ? ", guessed as the middle of the curve" : ""}) at ${say.water}; 70 to 120 % is kind to it.`,
    value < 1 && facts.several
      ? "The others hold it back: match the pumps, or run them one at a time."
      : value < 1
        ? "A pump whose best flow lies nearer to this would be happier, or a line that lets more through."
        : "A pump whose best flow lies nearer to this would be happier; check the motor’s current.",
  ],
  "hazen-williams-range": ({ facts }, say) => [
    "Outside Hazen–Williams",
    `${say.item}: ${facts.concerns
      .map(
        (concern) =>
          ({
            temperature: "water outside 5–25 °C",
            velocity: `faster than ${say.velocity(3)}`,
            bore: `bore under ${say.diameter(0.05)}`,
          })[concern],
      )
      .join(", ")}.`,
    "Switch the job to Darcy–Weisbach.",
  ],
  "schools-disagree": (_, say) => [
    "The two friction formulas disagree",
    `The other formula gives ${say.value} instead of ${say.limit}.`,
    "Trust Darcy–Weisbach for small bores and water away from 15 °C.",
  ],
};

const RATED: Record<Severity, string> = {
  stop: "Pressure over the rating",
  watch: "Pressure close to the rating",
  unknown: "Shut-off pressure not known",
  good: "Pressure within the rating",
};

const MISPLACED: Record<Misplacement, { title: string; sentence: string; advice: string }> = {
  "engine-unplaced": {
    title: "Where the engine stands is not known",
    sentence: "the job does not say where it stands, and its exhaust is carbon monoxide.",
    advice: "Only in the open: never indoors, in a pit, a crawl space or by an intake.",
  },
  "dry-pump-under-water": {
    title: "A dry pump cannot stand in water",
    sentence: "its motor is not made to stand below high water.",
    advice:
      "Set it above high water and draw through a suction line, or choose a submersible. Isolate and lock off before anyone goes near.",
  },
  "dry-pump-in-casing": {
    title: "A dry pump cannot go down a well",
    sentence: "it stands below the well’s water.",
    advice: "Choose a submersible well pump, or set this one at the top within its suction lift.",
  },
  "engine-in-pit": {
    title: "No engine in a pit",
    sentence: "exhaust gathers below ground, and carbon monoxide kills without warning.",
    advice:
      "Stand it in the open, downwind and above high water, and draw through a suction line; or choose an electric pump.",
  },
  "engine-indoors": {
    title: "No engine indoors",
    sentence: "its exhaust is carbon monoxide, which kills without warning, doors open or not.",
    advice: "Stand it in the open and away from windows and intakes, or choose an electric pump.",
  },
  "submersible-behind-suction": {
    title: "A submersible does not draw through a pipe",
    sentence: "its suction line leads to a pump that takes water in all round and is cooled by it.",
    advice:
      "Put it in the water itself, fit it in a sleeve with a port for that line, or choose a surface pump.",
  },
  "no-such-supply": {
    title: "No supply here runs it",
    sentence: "its voltage or its phases are not among those there are.",
    advice:
      "Choose a pump for the supply there is, or an engine in the open. Electrical work belongs to a licensed electrician.",
  },
  "no-battery": {
    title: "No battery here runs it",
    sentence: "it is made for direct current, and the job has no battery unit.",
    advice:
      "Give the job a battery under Need, say that a battery is the power there is, or choose a pump for the mains.",
  },
  "mains-on-battery": {
    title: "A battery does not run this motor",
    sentence: "it is put on a battery, and its plate does not say direct current.",
    advice:
      "Choose a pump made for the battery’s voltage, or feed this one from the mains; an inverter is a licensed electrician’s to size.",
  },
  "supply-unknown": {
    title: "Whether the supply runs it is not known",
    sentence: "its plate or the job does not say volts and phases.",
    advice: "Read them off the plate and the panel; a licensed electrician decides.",
  },
};

/** Common practice, no source. */
const SLEEVE =
  "A sleeve a size or two wider than the motor cools it best. Made up of pipe: a pocket, a reducer to the suction line, and a gasket where the cord comes out. Unplug and lock off first.";

/** Why a pump hangs no higher or no lower. */
export const RULES: Record<SettingRule, string> = {
  "under-water": "3 ft (0.9 m) of water over it at the lowest pumping level",
  "off-bottom": "5 ft (1.5 m) off the bottom, where the silt lies",
  "above-screen": "its motor above the screen, so that water passes it",
  immersion: "the water it bears over it, counted from the highest standing level",
  cord: "as far as its cord reaches",
  casing: "the casing is too narrow for it below that",
};

const LACKS = {
  bottom: "The well’s bottom is not told.",
  "pumping-level": "How low pumping draws the water is not told: type a step of a test.",
};

/** "40 s" or "3 min", from seconds. */
function spell(seconds: number): string {
  return seconds < 90 ? `${Math.max(Math.round(seconds), 1)} s` : duration(seconds);
}

function whileRunning(running: number | undefined, { pressure }: Voice): string {
  return running === undefined ? "" : `, running ${pressure(running)}`;
}

function liftTitle(severity: Severity, whose: string, limit: string): string {
  if (severity === "good") return `Suction lift within ${limit}`;
  return severity === "stop"
    ? `Suction lift too high for ${whose}`
    : `Suction lift near the limit of ${whose}`;
}

function adviceOnLift(value: number, limit: number, head: (si: number) => string): string {
  const over = value - LIMITS.suctionReserve * limit;
  return `Lower the pump by ${head(over)}, cut suction friction, or move to a submersible.`;
}

/** "Lay it in 3 in.": what was found to mend it, that nothing stocked does, or that nothing was tried yet. */
function layIn({ larger }: TooFast, none: string): string {
  if (larger === undefined) return "Try it in a larger size.";
  if (larger === "none-stocked")
    return "No larger size of it is stocked: lay other pipe, or throttle the line.";
  if (larger === "none-slower") return none;
  if (larger === "not-known") {
    return "What a larger size would let through is not known: the pump runs past its published curve there.";
  }
  const stock = findPipeStock(larger.id);
  return `Lay it in ${stock?.nominal ?? larger.id}.`;
}
