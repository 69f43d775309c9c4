import "@fontsource-variable/atkinson-hyperlegible-mono";
import "@fontsource-variable/atkinson-hyperlegible-next";
import "./index.css";

import { Tooltip } from "radix-ui";
import { QueryClient } from "@tanstack/react-query";
import { PersistQueryClientProvider } from "@tanstack/react-query-persist-client";
import { createRoot } from "react-dom/client";
import { App } from "./App";
import { remembered } from "./remembered";
import { EngineLost } from "./engine/crew";
import { Refused, refusalOf } from "./model/refused";
import { say } from "./session/notices";
import { beginEarly } from "./session/beginning";
import { useLooking } from "./session/looking";
import { showTheme } from "./session/choices";
import { useBench } from "./session/store";
import { sweepHere } from "./session/here";
import { t } from "./model/said";

showTheme(useBench.getState().theme);
// What a pen uses between strokes is larger from the next visit on: nothing moves under a stroke.
if (useLooking.getState().forPen) document.documentElement.dataset.pen = "seen";
// Nothing fails unheard. What a lost worker was asked is asked anew.
window.addEventListener("unhandledrejection", ({ reason }: PromiseRejectionEvent) => {
  if (!(reason instanceof EngineLost)) say(t("Something went wrong: {{message}}", { message: refusalOf(reason).message }));
});
window.addEventListener("error", ({ message }) => {
  // A layout that takes two rounds is no failure.
  if (!message.startsWith("ResizeObserver loop")) say(t("Something went wrong: {{message}}", { message }));
});
const queries = new QueryClient({
  defaultOptions: { queries: { retry: (_, error) => !(error instanceof Refused && error.code === "sign-in"), retryDelay: 2000, refetchOnWindowFocus: false, staleTime: 5000, gcTime: Infinity, networkMode: "always" } },
});
await sweepHere();
beginEarly(queries);
const root = document.getElementById("root");
if (!root) throw new Error("the page has no root");
createRoot(root).render(
  <PersistQueryClientProvider client={queries} persistOptions={remembered}>
    <Tooltip.Provider delayDuration={500}>
      <App />
    </Tooltip.Provider>
  </PersistQueryClientProvider>,
);
