import "@fontsource/barlow/latin-400.css";
import "@fontsource/barlow/latin-500.css";
import "@fontsource/barlow/latin-600.css";
import "@fontsource/barlow-condensed/latin-500.css";
import "@fontsource/barlow-condensed/latin-600.css";
import "./styles.css";
import { QueryClientProvider } from "@tanstack/react-query";
import { type ComponentType, lazy, StrictMode, Suspense } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, RouterProvider } from "react-router";
import { queries } from "./api/queries.ts";
import { atRest } from "./app/atRest.ts";
import { Broken } from "./app/Broken.tsx";
import { Frame } from "./app/Frame.tsx";
import { keepForOffline } from "./app/offline.ts";
import { keepPageLog } from "./app/pageLog.ts";
import { Empty, Loading } from "./ui/Notices.tsx";

/** A page that is fetched when it is first gone to; at once where the application is opened on it. */
function page(
  what: string,
  load: () => Promise<{ default: ComponentType }>,
  at?: string,
  alone = false,
) {
  const { pathname } = location;
  const isAt = at !== undefined && (alone ? pathname === at : pathname.startsWith(at));
  const asked = isAt ? load() : undefined;
  const Page = lazy(() => asked ?? load());
  return (
    <Suspense fallback={<Loading what={what} />}>
      <Page />
    </Suspense>
  );
}

const router = createBrowserRouter([
  {
    element: <Frame />,
    errorElement: <Broken />,
    children: [
      {
        // What breaks within a page leaves the frame standing.
        errorElement: <Broken />,
        children: [
          { path: "/", element: page("the jobs", () => import("./jobs/JobsPage.tsx"), "/", true) },
          { path: "/new", element: page("the kinds of job", () => import("./new/NewPage.tsx")) },
          { path: "/new/:kind", element: page("the sketch", () => import("./new/SketchPage.tsx")) },
          {
            path: "/jobs/:id/:step?",
            element: page("the job", () => import("./job/JobPage.tsx"), "/jobs/"),
          },
          {
            path: "/jobs/:id/sheet",
            element: page("the sheet", () => import("./report/JobSheetPage.tsx")),
          },
          {
            path: "/jobs/:id/tests/:test",
            element: page("the test", () => import("./report/TestSheetPage.tsx")),
          },
          {
            path: "/jobs/:id/years",
            element: page("the years", () => import("./years/YearsPage.tsx")),
          },
          { path: "/pumps", element: page("the pumps", () => import("./pumps/PumpsPage.tsx")) },
          {
            path: "/pumps/compare",
            element: page("the pumps", () => import("./pumps/ComparePage.tsx")),
          },
          {
            path: "/devices",
            element: page("the devices", () => import("./devices/DevicesPage.tsx")),
          },
          {
            path: "/backups",
            element: page("the backups", () => import("./backups/BackupsPage.tsx")),
          },
          { path: "/bin", element: page("the bin", () => import("./bin/BinPage.tsx")) },
          {
            path: "/instruments",
            element: page("the instruments", () => import("./instruments/InstrumentsPage.tsx")),
          },
          {
            path: "/streams/:id",
            element: page("the stream", () => import("./streams/StreamPage.tsx"), "/streams/"),
          },
          { path: "/units/:id", element: page("the pump", () => import("./units/UnitPage.tsx")) },
          {
            path: "/units/:id/stand",
            element: page("the stand", () => import("./units/StandPage.tsx")),
          },
          { path: "/hoses", element: page("the hoses", () => import("./hoses/HosesPage.tsx")) },
          {
            path: "/pumps/:id/edit",
            element: page("the pump", () => import("./pumps/PumpEditPage.tsx")),
          },
          { path: "/pumps/:id", element: page("the pump", () => import("./pumps/PumpPage.tsx")) },
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
]);

keepPageLog();
const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </StrictMode>,
  );
}

// The page is not to wait for what it needs later, nor is whoever types into the commands.
atRest(
  "frame",
  () => import("./app/Palette.tsx"),
  async () => {
    if (import.meta.env.PROD) keepForOffline();
  },
);
