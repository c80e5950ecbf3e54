import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { NavLink, Outlet, useNavigate } from "react-router";
import { Toaster, toast } from "sonner";
import { api } from "../api/client.ts";
import { startFlushing } from "../outbox/flush.ts";
import { Button, IconButton } from "../ui/Button.tsx";
import { Dialog } from "../ui/Dialog.tsx";
import { CircleQuestionMark, Moon, Search, Sun } from "../ui/icons.ts";
import { Palette } from "./Palette.tsx";
import { useSettings } from "./settings.ts";

/** What stands around every page: where one is, units, theme, commands, keys. */
export function Frame() {
  const { units, theme, toggleUnits, toggleTheme } = useSettings();
  const navigate = useNavigate();
  const [sheet, setSheet] = useState<"none" | "palette" | "keys">("none");
  const health = useQuery({
    queryKey: ["health"],
    queryFn: api.health,
    staleTime: Number.POSITIVE_INFINITY,
  });

  useEffect(startFlushing, []);
  useEffect(() => {
    document.documentElement.dataset.theme = theme;
  }, [theme]);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "k") {
        event.preventDefault();
        setSheet((s) => (s === "palette" ? "none" : "palette"));
        return;
      }
      const typing =
        event.target instanceof HTMLElement &&
        event.target.closest("input, textarea, select, [role=dialog]");
      if (typing || event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.key === "?") setSheet("keys");
      if (event.key === "u") toggleUnits();
      if (event.key === "n") void navigate("/new");
    };
    addEventListener("keydown", onKey);
    return () => removeEventListener("keydown", onKey);
  }, [toggleUnits, navigate]);

  const link = ({ isActive }: { isActive: boolean }) =>
    `target inline-flex items-center rounded px-2.5 max-sm:px-1.5 ${isActive ? "bg-press font-medium" : "hover:bg-press"}`;
  return (
    <div className="flex h-full flex-col">
      <header className="no-print flex items-center gap-1 border-b-2 border-ink px-3 py-1 max-sm:px-1 scrolled:hidden">
        <span className="plate mr-2 text-[22px] tracking-wide max-sm:hidden">Upright Gusher</span>
        <nav aria-label="Main" className="flex gap-1">
          <NavLink to="/" end className={link}>
            Jobs
          </NavLink>
          <NavLink to="/pumps" className={link}>
            Pumps
          </NavLink>
          <NavLink to="/hoses" className={link}>
            Hoses
          </NavLink>
          <NavLink to="/backups" className={(at) => `${link(at)} max-sm:hidden`}>
            Backups
          </NavLink>
        </nav>
        <span className="flex-1" />
        {health.data?.demo && <ResetDemo />}
        <Button
          look="quiet"
          className="plate text-[17px]"
          onClick={toggleUnits}
          aria-label={`Units: ${units === "us" ? "US" : "metric"}. Switch.`}
        >
          {units === "us" ? (
            <>
              US<span className="max-sm:sr-only"> units</span>
            </>
          ) : (
            "Metric"
          )}
        </Button>
        <IconButton label={theme === "light" ? "Dark" : "Light"} onClick={toggleTheme}>
          {theme === "light" ? <Moon size={18} aria-hidden /> : <Sun size={18} aria-hidden />}
        </IconButton>
        <IconButton label="Commands (Ctrl K)" onClick={() => setSheet("palette")}>
          <Search size={18} aria-hidden />
        </IconButton>
        <IconButton label="Keys (?)" onClick={() => setSheet("keys")}>
          <CircleQuestionMark size={18} aria-hidden />
        </IconButton>
      </header>
      <main className="min-h-0 flex-1">
        <Outlet />
      </main>
      <Palette
        open={sheet === "palette"}
        onClose={() => setSheet("none")}
        onKeys={() => setSheet("keys")}
      />
      <Dialog open={sheet === "keys"} onClose={() => setSheet("none")} title="Keys">
        <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1.5">
          {KEYS.map(([keys, what]) => (
            <div key={what} className="contents">
              <dt className="plate text-[17px]">{keys}</dt>
              <dd>{what}</dd>
            </div>
          ))}
        </dl>
        <Button className="mt-4" onClick={() => setSheet("none")}>
          Close
        </Button>
      </Dialog>
      <Toaster theme={theme} position="bottom-center" />
    </div>
  );
}

const KEYS: readonly (readonly [string, string])[] = [
  ["Ctrl K", "Commands: any job, pump or action by name"],
  ["Ctrl Z, Ctrl Shift Z", "Undo, redo on a job"],
  ["1 to 5", "Source, suction, pump, discharge, outlet, each in its stage"],
  ["F", "Fold the section, or unfold it"],
  ["L, S, C, G", "Head ledger, sizes, curve sheet, changes"],
  ["Alt ↑, Alt ↓", "Move the row of the line that has the cursor"],
  ["Space", "On a row’s handle: lift it; arrows carry it, space sets it down"],
  ["Esc", "Put an entry back as it was, close a sheet"],
  ["Space", "Start or stop the watch that has the cursor"],
  ["N", "A new job"],
  ["U", "US or metric"],
  ["?", "This list"],
];

function ResetDemo() {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [asking, setAsking] = useState(false);
  return (
    <>
      <Button
        look="quiet"
        className="text-[14px] text-soft max-sm:hidden"
        onClick={() => setAsking(true)}
      >
        Demo: reset
      </Button>
      <Dialog open={asking} onClose={() => setAsking(false)} title="Reset the demo?">
        <p>
          Everything changed in this demo is thrown away and the invented jobs come back as they
          were.
        </p>
        <div className="mt-4 flex gap-2">
          <Button
            look="strong"
            onClick={() =>
              void (async () => {
                try {
                  await navigate("/");
                  await api.resetDemo();
                  await client.invalidateQueries();
                  toast("The demo is as it was.");
                } catch (error) {
                  toast.error((error as Error).message);
                } finally {
                  setAsking(false);
                }
              })()
            }
          >
            Reset
          </Button>
          <Button onClick={() => setAsking(false)}>Keep it</Button>
        </div>
      </Dialog>
    </>
  );
}
