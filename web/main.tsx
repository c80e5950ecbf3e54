import "@fontsource/barlow/latin-400.css";
import "@fontsource/barlow/latin-500.css";
import "@fontsource/barlow/latin-600.css";
import "@fontsource/barlow-condensed/latin-500.css";
import "@fontsource/barlow-condensed/latin-600.css";
import "./styles.css";
import { QueryClientProvider } from "@tanstack/react-query";
import { lazy, StrictMode, Suspense } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, RouterProvider } from "react-router";
import { queries } from "./api/queries.ts";
import { Frame } from "./app/Frame.tsx";
import { HosesPage } from "./hoses/HosesPage.tsx";
import { JobPage } from "./job/JobPage.tsx";
import { JobsPage } from "./jobs/JobsPage.tsx";
import { PumpEditPage } from "./pumps/PumpEditPage.tsx";
import { PumpsPage } from "./pumps/PumpsPage.tsx";
import { Empty, Loading } from "./ui/Notices.tsx";

const PumpPage = lazy(() => import("./pumps/PumpPage.tsx"));

const router = createBrowserRouter([
  {
    element: <Frame />,
    children: [
      { path: "/", element: <JobsPage /> },
      { path: "/jobs/:id/:step?", element: <JobPage /> },
      { path: "/pumps", element: <PumpsPage /> },
      { path: "/hoses", element: <HosesPage /> },
      { path: "/pumps/:id/edit", element: <PumpEditPage /> },
      {
        path: "/pumps/:id",
        element: (
          <Suspense fallback={<Loading what="the pump" />}>
            <PumpPage />
          </Suspense>
        ),
      },
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
