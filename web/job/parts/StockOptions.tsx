import { FAMILIES, PIPE_STOCK, type PipeFamily } from "#core/catalogue/pipes.ts";

/** Every size in stock, by family; a size that is not stocked stays shown while it is chosen. */
export function StockOptions({ chosen }: { chosen: string }) {
  return (
    <>
      {chosen !== "" && !PIPE_STOCK.some((s) => s.id === chosen) && (
        <option value={chosen}>{chosen}</option>
      )}
      {(Object.keys(FAMILIES) as PipeFamily[]).map((family) => (
        <optgroup key={family} label={FAMILIES[family].label}>
          {PIPE_STOCK.filter((s) => s.family === family).map((s) => (
            <option key={s.id} value={s.id}>
              {s.nominal} {FAMILIES[family].label}
            </option>
          ))}
        </optgroup>
      ))}
    </>
  );
}
