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
import { Frame } from "./app/Frame.tsx";
import { keepForOffline } from "./app/offline.ts";
import { JobsPage } from "./jobs/JobsPage.tsx";
import { Empty, Loading } from "./ui/Notices.tsx";

/** A page that is fetched when it is first gone to. */
function page(what: string, load: () => Promise<{ default: ComponentType }>) {
  const Page = lazy(load);
  return (
    <Suspense fallback={<Loading what={what} />}>
      <Page />
    </Suspense>
  );
}

const router = createBrowserRouter([
  {
    element: <Frame />,
    children: [
      { path: "/", element: <JobsPage /> },
      { path: "/new", element: page("the kinds of job", () => import("./new/NewPage.tsx")) },
      { path: "/new/:kind", element: page("the sketch", () => import("./new/SketchPage.tsx")) },
      {
        path: "/jobs/:id/:step?",
        element: page("the job", () => import("./job/JobPage.tsx")),
      },
      {
        path: "/jobs/:id/sheet",
        element: page("the sheet", () => import("./report/JobSheetPage.tsx")),
      },
      { path: "/pumps", element: page("the pumps", () => import("./pumps/PumpsPage.tsx")) },
      {
        path: "/backups",
        element: page("the backups", () => import("./backups/BackupsPage.tsx")),
      },
      { path: "/hoses", element: page("the hoses", () => import("./hoses/HosesPage.tsx")) },
      {
        path: "/pumps/:id/edit",
        element: page("the pump", () => import("./pumps/PumpEditPage.tsx")),
      },
      { path: "/pumps/:id", element: page("the pump", () => import("./pumps/PumpPage.tsx")) },
      {
        path: "*",
        element: <Empty title="There is no such page">Jobs, Pumps and Hoses are at the top.</Empty>,
      },
    ],
  },
]);

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

if (import.meta.env.PROD) keepForOffline();
