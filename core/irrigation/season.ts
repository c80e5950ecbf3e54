export interface SeasonAsked {
  /** m³/s of all guns, or of the drip, and m² they water */
  flow: number;
  area: number;
  /** m wanted in the ground each week */
  weekly: number;
  /** part of what is put out that never gets there: wind, evaporation, over the edge */
  loss: number;
  /** m of rain in each week, and the part of it that counts */
  rain: readonly number[];
  effective: number;
  /** once round the field: m laid, sets, and s of carrying between them; nothing to carry where absent */
  round?: { depth: number; sets: number; move: number };
  /** m³ of fuel, or J, for each s it runs, and money for a m³, or J */
  perSecond?: number;
  energyPrice?: number;
  /** money an hour of somebody's time, for moves and, where it stays beside the engine, while it runs */
  wage?: number;
  attended?: boolean;
}

export interface Week {
  /** m still wanted after rain, and put out for it */
  net: number;
  gross: number;
  volume: number;
  /** s it runs, and s of somebody's time */
  hours: number;
  work: number;
  /** m³ of fuel, or J */
  energy?: number;
  cost?: number;
}

export interface Season {
  weeks: Week[];
  total: Omit<Week, "net" | "gross"> & { net: number; gross: number };
  /** money a m² of the whole season */
  costPerArea?: number;
}

/** What a season of watering takes, week by week: what is wanted less the rain that counts, never less than nothing. */
export function season(asked: SeasonAsked): Season {
  const weeks = asked.rain.map((rain) => weekOf(asked, rain));
  const sum = (of: (week: Week) => number | undefined) =>
    weeks.reduce((all, week) => all + (of(week) ?? 0), 0);
  const cost = weeks.every((week) => week.cost !== undefined) ? sum((w) => w.cost) : undefined;
  return {
    weeks,
    total: {
      ...{ net: sum((w) => w.net), gross: sum((w) => w.gross), volume: sum((w) => w.volume) },
      ...{ hours: sum((w) => w.hours), work: sum((w) => w.work) },
      ...(asked.perSecond !== undefined && { energy: sum((w) => w.energy) }),
      ...(cost !== undefined && { cost }),
    },
    ...(cost !== undefined && { costPerArea: cost / asked.area }),
  };
}

function weekOf(asked: SeasonAsked, rain: number): Week {
  const { flow, area, weekly, loss, effective, round, perSecond, energyPrice, wage } = asked;
  const net = Math.max(weekly - rain * effective, 0);
  const gross = net / (1 - loss);
  const volume = gross * area;
  const hours = volume / flow;
  // A round lays so much: half of one still takes every move of it.
  const rounds = round && gross > 0 ? Math.max(Math.ceil(gross / round.depth - 1e-9), 1) : 0;
  const moving = round ? rounds * round.sets * round.move : 0;
  const work = moving + (asked.attended ? hours : 0);
  const energy = perSecond === undefined ? undefined : hours * perSecond;
  const forEnergy =
    energy !== undefined && energyPrice !== undefined ? energy * energyPrice : undefined;
  // Where nobody carries or stays, a wage says nothing of what it costs.
  const hands = round !== undefined || asked.attended === true;
  const forWork = wage === undefined || !hands ? undefined : (work / 3600) * wage;
  const cost =
    forEnergy === undefined && forWork === undefined
      ? undefined
      : (forEnergy ?? 0) + (forWork ?? 0);
  return {
    ...{ net, gross, volume, hours, work },
    ...(energy !== undefined && { energy }),
    ...(cost !== undefined && { cost }),
  };
}
