import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate } from "react-router";
import { type PumpAssetDocument, pumpAssetVersions } from "#contract/documents/pumpAsset.ts";
import { api, newId } from "../api/client.ts";
import { allPumpAssets, queries } from "../api/queries.ts";
import { Button } from "../ui/Button.tsx";
import { toast } from "../ui/toast.ts";

/** The real pumps of a model that the firm has sold, fitted or keeps. */
export function AssetsOfPump({ pumpId }: { pumpId: string }) {
  const units = useQuery(allPumpAssets);
  const navigate = useNavigate();
  const own = (units.data ?? []).filter(({ document }) => document.pumpId === pumpId);
  async function add(): Promise<void> {
    const id = newId();
    const unit: PumpAssetDocument = {
      format: pumpAssetVersions.format,
      version: pumpAssetVersions.version,
      pumpId,
    };
    try {
      await api.save("units", id, 0, unit);
      await queries.invalidateQueries({ queryKey: allPumpAssets.queryKey });
      await navigate(`/units/${id}`);
    } catch (error) {
      toast.error((error as Error).message);
    }
  }
  return (
    <section aria-label="Kept by serial number" className="mt-4">
      <h2 className="plate text-[19px]">Kept by serial number</h2>
      <ul className="text-[15px]">
        {own.map(({ id, document }) => (
          <li key={id} className="border-t border-rule">
            <Link to={`/units/${id}`} className="target flex items-center gap-3 underline">
              {document.serial ?? "no serial number"}
              <span className="text-soft">
                {[
                  document.standsAt,
                  document.warrantyUntil && `warranty until ${document.warrantyUntil}`,
                ]
                  .filter(Boolean)
                  .join(", ")}
              </span>
            </Link>
          </li>
        ))}
      </ul>
      <Button onClick={() => void add()}>Keep one of them</Button>
    </section>
  );
}
