/** An input of a measurement: its best value and standard uncertainty. */
export interface Input<Name extends string = string> {
  name: Name;
  value: number;
  standardUncertainty: number;
}

export interface Propagated<Name extends string = string> {
  value: number;
  standardUncertainty: number;
  /** by how much the value moves with one deviation of each input; of those without doubt nothing */
  effects: Partial<Record<Name, number>>;
  /** variance each input brings, as a fraction of the whole, largest first */
  budget: { name: Name; share: number }[];
}

/**
 * Combined standard uncertainty of `model` of independent inputs, to first order with sensitivities by
 * central differences over ± one standard uncertainty. Source: GUM (JCGM 100:2008) 5.1.2 and the
 * numerical form of 5.1.3 note 2. Undefined where the model gives no value at or around the inputs.
 */
export function propagate<Name extends string>(
  inputs: readonly Input<Name>[],
  model: (values: Record<Name, number>) => number | undefined,
): Propagated<Name> | undefined {
  const values = Object.fromEntries(inputs.map((i) => [i.name, i.value])) as Record<Name, number>;
  const centre = model(values);
  if (centre === undefined) return undefined;
  const parts: { name: Name; effect: number }[] = [];
  for (const { name, value, standardUncertainty: u } of inputs) {
    if (u === 0) continue;
    const up = model({ ...values, [name]: value + u });
    const down = model({ ...values, [name]: value - u });
    // At the edge of a published curve only one side may exist.
    const effect =
      up !== undefined && down !== undefined
        ? (up - down) / 2
        : up !== undefined
          ? up - centre
          : down !== undefined
            ? centre - down
            : undefined;
    if (effect === undefined) return undefined;
    parts.push({ name, effect });
  }
  const variance = parts.reduce((sum, { effect }) => sum + effect * effect, 0);
  return {
    value: centre,
    standardUncertainty: Math.sqrt(variance),
    effects: Object.fromEntries(parts.map(({ name, effect }) => [name, effect])) as Partial<
      Record<Name, number>
    >,
    budget: parts
      .map(({ name, effect }) => ({ name, share: variance > 0 ? effect ** 2 / variance : 0 }))
      .sort((a, b) => b.share - a.share),
  };
}
