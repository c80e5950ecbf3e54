import { useQuery } from "@tanstack/react-query";
import { lazy, Suspense, useEffect, useState, useSyncExternalStore } from "react";
import { NavLink, Outlet, useNavigate } from "react-router";
import { ofServer } from "../api/queries.ts";
import { useStands } from "../lib/Fetched.tsx";
import { useKeys } from "../lib/keys.ts";
import { startFlushing } from "../outbox/flush.ts";
import { useSettings } from "../state/settings.ts";
import { Button, IconButton } from "../ui/Button.tsx";
import { CircleQuestionMark, Moon, Search, Sun } from "../ui/icons.ts";
import { useToasts } from "../ui/toast.ts";
import { FRAME_KEYS } from "./frameKeys.ts";

// Fetched when they are first asked for: the page is there before them.
const Palette = lazy(() => import("./Palette.tsx"));
const Keys = lazy(() => import("./Keys.tsx"));
const ResetDemo = lazy(() => import("./ResetDemo.tsx"));
const toasts = () => import("../ui/Toasts.tsx");
// Where it cannot be had the page goes on without.
const Toasts = lazy(() => toasts().catch(() => ({ default: () => <></> })));

/** What stands around every page: where one is, units, theme, commands, keys. */
export function Frame() {
  const { units, theme, toggleUnits, toggleTheme } = useSettings();
  const navigate = useNavigate();
  const online = useSyncExternalStore(
    onNetwork,
    () => navigator.onLine,
    () => true,
  );
  const [sheet, setSheet] = useState<"none" | "palette" | "keys" | "reset">("none");
  const said = useToasts(({ wanted }) => wanted);
  const health = useQuery(ofServer);

  useStands();
  useEffect(startFlushing, []);
  // Right after the first view: what it says first may be that there is no network.
  useEffect(() => void toasts().catch(() => undefined), []);
  useEffect(() => {
    document.documentElement.dataset.theme = theme;
  }, [theme]);
  useKeys([
    [FRAME_KEYS.commands, () => setSheet((s) => (s === "palette" ? "none" : "palette"))],
    [FRAME_KEYS.keys, () => setSheet("keys")],
    [FRAME_KEYS.units, toggleUnits],
    [FRAME_KEYS.job, () => void navigate("/new")],
  ]);

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
          <NavLink to="/instruments" className={(at) => `${link(at)} max-sm:hidden`}>
            Instruments
          </NavLink>
          <NavLink to="/backups" className={(at) => `${link(at)} max-sm:hidden`}>
            Backups
          </NavLink>
          <NavLink to="/bin" className={(at) => `${link(at)} max-sm:hidden`}>
            Bin
          </NavLink>
          {health.data?.open && (
            <NavLink to="/devices" className={(at) => `${link(at)} max-sm:hidden`}>
              Devices
            </NavLink>
          )}
        </nav>
        <span role="status" className="flex-1 text-center text-[14px] font-medium text-signal">
          {!online && (
            <>
              No network
              <span className="max-sm:sr-only">: what you see is as it was last read</span>
            </>
          )}
        </span>
        {health.data?.demo && (
          <Button
            look="quiet"
            className="text-[14px] text-soft max-sm:hidden"
            onClick={() => setSheet("reset")}
          >
            Demo: reset
          </Button>
        )}
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
      {sheet === "palette" && (
        <Suspense fallback={null}>
          <Palette onClose={() => setSheet("none")} onKeys={() => setSheet("keys")} />
        </Suspense>
      )}
      {sheet === "keys" && (
        <Suspense fallback={null}>
          <Keys onClose={() => setSheet("none")} />
        </Suspense>
      )}
      {sheet === "reset" && (
        <Suspense fallback={null}>
          <ResetDemo onClose={() => setSheet("none")} />
        </Suspense>
      )}
      {said && (
        <Suspense fallback={null}>
          <Toasts theme={theme} />
        </Suspense>
      )}
    </div>
  );
}

/** Calls back when the network goes or comes. Returns a function that stops. */
function onNetwork(changed: () => void): () => void {
  addEventListener("online", changed);
  addEventListener("offline", changed);
  return () => {
    removeEventListener("online", changed);
    removeEventListener("offline", changed);
  };
}
