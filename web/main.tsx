import { QueryClientProvider } from "@tanstack/react-query";
import { setNonce } from "get-nonce";
import { StrictMode, startTransition } from "react";
import { createRoot, hydrateRoot } from "react-dom/client";
import { createBrowserRouter, RouterProvider } from "react-router";
import type { PageArrived } from "#contract/api/pages.ts";
import { goOn, queries, takeArrived } from "./api/queries.ts";
import { keepForOffline } from "./app/offline.ts";
import { openPage, routesOf } from "./app/routes.tsx";
import { atRest } from "./lib/atRest.ts";
import { settleFields } from "./lib/early.ts";
import { standSometime } from "./lib/Fetched.tsx";
import { keepPageLog, note } from "./state/pageLog.ts";
import { saidSettings, tellSettings } from "./state/settings.ts";

keepPageLog();
tellSettings();
standSometime();
const root = document.getElementById("root");
if (root) void open(root);

/** Puts the application on its page: onto what the server drew of it, where that is what this device would draw. */
async function open(root: HTMLElement): Promise<void> {
  const sent = document.getElementById("arrived");
  const arrived = sent?.textContent ? (JSON.parse(sent.textContent) as PageArrived) : undefined;
  if (arrived) takeArrived(arrived.answers);
  // Dialogs that keep the page behind them from scrolling write a style element.
  if (sent) setNonce(sent.nonce);
  // What cannot be had the page itself says.
  const opened = await openPage(location).catch(() => undefined);
  const router = createBrowserRouter(routesOf(opened));
  router.subscribe(goOn);
  const application = (
    <StrictMode>
      <QueryClientProvider client={queries}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </StrictMode>
  );
  if (opened?.asDrawn && arrived?.settings === saidSettings()) {
    settleFields(root);
    startTransition(() => {
      hydrateRoot(root, application, {
        // It is drawn anew then.
        onRecoverableError: (error) => note(`Not as it was sent: ${String(error)}`),
      });
    });
  } else createRoot(root).render(application);
}

// The page is not to wait for what it needs later, nor is whoever types into the commands.
atRest(
  "frame",
  () => import("./app/Palette.tsx"),
  async () => {
    if (import.meta.env.PROD) keepForOffline();
  },
);
