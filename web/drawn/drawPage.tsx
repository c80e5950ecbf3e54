import { QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { prerenderToNodeStream } from "react-dom/static.node";
import { createStaticHandler, createStaticRouter, StaticRouterProvider } from "react-router";
import type { PageAsked, PageDrawn } from "#contract/api/pages.ts";
import { queries, takeArrived } from "../api/queries.ts";
import { openPage, routesOf } from "../app/routes.tsx";
import { saidSettings, takeSettings, useSettings } from "../state/settings.ts";

/**
 * Draws a page as the application would draw it first in a browser. One after the other: the bench, what was read and
 * what is preferred are those of one page.
 * @throws where the page cannot be drawn; it is sent without then
 */
export async function drawPage({
  address,
  settings,
  languages,
  answers,
}: PageAsked): Promise<PageDrawn> {
  takeSettings(settings, languages);
  queries.clear();
  takeArrived(
    Object.fromEntries(Object.entries(answers).map(([path, json]) => [path, JSON.parse(json)])),
  );
  const url = new URL(address, "http://localhost");
  const opened = await openPage(url);
  if (!opened?.asDrawn) throw new Error("There is no such page to draw.");
  const { query, dataRoutes } = createStaticHandler(routesOf(opened));
  const context = await query(new Request(url));
  if (context instanceof Response) throw new Error("The page leads elsewhere.");
  const { prelude } = await prerenderToNodeStream(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <StaticRouterProvider
          router={createStaticRouter(dataRoutes, context)}
          context={context}
          hydrate={false}
        />
      </QueryClientProvider>
    </StrictMode>,
    // In one piece: no script is to put it together.
    { progressiveChunkSize: Number.POSITIVE_INFINITY },
  );
  const parts: string[] = [];
  for await (const part of prelude) parts.push(String(part));
  return {
    html: parts.join(""),
    settings: saidSettings(),
    theme: useSettings.getState().theme,
  };
}
