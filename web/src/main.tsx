import "@fontsource-variable/atkinson-hyperlegible-mono";
import "@fontsource-variable/atkinson-hyperlegible-next";
import "./index.css";

import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { createRoot } from "react-dom/client";
import { App } from "./App";
import { setTheme, useBench } from "./session/store";

setTheme(useBench.getState().theme);
const queries = new QueryClient({
  defaultOptions: { queries: { retry: true, retryDelay: 2000, refetchOnWindowFocus: false, staleTime: 5000 } },
});
const root = document.getElementById("root");
if (!root) throw new Error("the page has no root");
createRoot(root).render(
  <QueryClientProvider client={queries}>
    <App />
  </QueryClientProvider>,
);
