import { type ComponentType, lazy } from "react";
import type { RouteObject } from "react-router";
import { Fetched } from "../lib/Fetched.tsx";
import { Empty, Loading } from "../ui/Notices.tsx";
import { Broken } from "./Broken.tsx";
import { Frame } from "./Frame.tsx";

/** A page's module; the pages that are drawn before they are sent say what they need for that. */
export interface PageModule {
  default: ComponentType;
  /**
   * Has ready what the page begins with.
   * @returns whether this device has nothing of its own to show there: it is as the server drew it
   */
  prepare?: (search: URLSearchParams, ...params: (string | undefined)[]) => Promise<boolean>;
}
type Load = () => Promise<PageModule>;

const BOARD: Load = () => import("../jobs/JobsPage.tsx");
const NEW: Load = () => import("../new/NewPage.tsx");
const SKETCH: Load = () => import("../new/SketchPage.tsx");
const JOB: Load = () => import("../jobPage/JobPage.tsx");

/** Pages that are there before the application is: by their address, with what it names. */
export const FIRST: readonly [RegExp, Load][] = [
  [/^\/$/, BOARD],
  [/^\/new$/, NEW],
  [/^\/new\/([^/]+)$/, SKETCH],
  // Its stages; what is beside them has pages of its own.
  [/^\/jobs\/([^/]+)(?:\/(?!sheet$|years$)([a-z]+))?$/, JOB],
];

/** The page the application was opened on, ready to be shown. */
export interface Opened {
  load: Load;
  Page: ComponentType;
  asDrawn: boolean;
}

/** Has ready the page of an address, where it is one that is there first. */
export async function openPage({
  pathname,
  search,
}: Pick<URL, "pathname" | "search">): Promise<Opened | undefined> {
  for (const [address, load] of FIRST) {
    const found = address.exec(pathname);
    if (!found) continue;
    const { default: Page, prepare } = await load();
    return {
      load,
      Page,
      asDrawn: (await prepare?.(new URLSearchParams(search), ...found.slice(1))) ?? true,
    };
  }
  return undefined;
}

/** Every page by its address. A page is fetched when it is first gone to; the one `opened` is there at once. */
export function routesOf(opened: Opened | undefined): RouteObject[] {
  const page = (what: string, load: Load) => {
    const Page = opened?.load === load ? opened.Page : lazy(load);
    return (
      <Fetched fallback={<Loading what={what} />}>
        <Page />
      </Fetched>
    );
  };
  return [
    {
      element: <Frame />,
      errorElement: <Broken />,
      children: [
        {
          // What breaks within a page leaves the frame standing.
          errorElement: <Broken />,
          children: [
            { path: "/", element: page("the jobs", BOARD) },
            { path: "/new", element: page("the kinds of job", NEW) },
            { path: "/new/:kind", element: page("the sketch", SKETCH) },
            {
              path: "/jobs/:id/:step?",
              element: page("the job", JOB),
            },
            {
              path: "/jobs/:id/sheet",
              element: page("the sheet", () => import("../report/JobSheetPage.tsx")),
            },
            {
              path: "/jobs/:id/tests/:test",
              element: page("the test", () => import("../report/TestSheetPage.tsx")),
            },
            {
              path: "/jobs/:id/years",
              element: page("the years", () => import("../years/YearsPage.tsx")),
            },
            { path: "/pumps", element: page("the pumps", () => import("../pumps/PumpsPage.tsx")) },
            {
              path: "/pumps/compare",
              element: page("the pumps", () => import("../pumps/ComparePage.tsx")),
            },
            {
              path: "/devices",
              element: page("the devices", () => import("../devices/DevicesPage.tsx")),
            },
            {
              path: "/backups",
              element: page("the backups", () => import("../backups/BackupsPage.tsx")),
            },
            { path: "/bin", element: page("the bin", () => import("../bin/BinPage.tsx")) },
            {
              path: "/instruments",
              element: page("the instruments", () => import("../instruments/InstrumentsPage.tsx")),
            },
            {
              path: "/streams/:id",
              element: page("the stream", () => import("../streams/StreamPage.tsx")),
            },
            {
              path: "/units/:id",
              element: page("the pump", () => import("../pumpAssets/PumpAssetPage.tsx")),
            },
            {
              path: "/units/:id/stand",
              element: page("the stand", () => import("../pumpAssets/StandPage.tsx")),
            },
            { path: "/hoses", element: page("the hoses", () => import("../hoses/HosesPage.tsx")) },
            {
              path: "/pumps/:id/edit",
              element: page("the pump", () => import("../pumps/PumpEditPage.tsx")),
            },
            {
              path: "/pumps/:id",
              element: page("the pump", () => import("../pumps/PumpPage.tsx")),
            },
            {
              path: "*",
              element: (
                <Empty title="There is no such page">Jobs, Pumps and Hoses are at the top.</Empty>
              ),
            },
          ],
        },
      ],
    },
  ];
}
