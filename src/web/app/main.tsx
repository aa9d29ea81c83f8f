import "@fontsource-variable/instrument-sans/index.css";
import "@fontsource-variable/literata/index.css";
import "./mantine.css";
import "./global.css";
import "./controls.css";
import { MantineProvider } from "@mantine/core";
import { notifyManager, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter } from "react-router";
import { pageIsOf } from "../api/session";
import type { Session } from "../api/types";
import { App } from "./App";
import { cssVariables, theme } from "./theme";

// A file dropped beside what takes files would be opened in place of the application, with all that waits in it.
for (const name of ["dragover", "drop"] as const) {
  window.addEventListener(name, (event) => {
    if (!event.defaultPrevented && event.dataTransfer?.types.includes("Files")) {
      event.preventDefault();
      event.dataTransfer.dropEffect = "none";
    }
  });
}

// What is asked is shown as soon as it is answered, not after the browser's next turn.
notifyManager.setScheduler(queueMicrotask);
const queries = new QueryClient({ defaultOptions: { queries: { retry: 1, staleTime: 5_000 } } });
pageIsOf(() => queries.getQueryData<Session | null>(["session"])?.id);

createRoot(document.getElementById("root") as HTMLElement).render(
  <StrictMode>
    <MantineProvider theme={theme} cssVariablesResolver={cssVariables} defaultColorScheme="auto">
      <QueryClientProvider client={queries}>
        {/* The room that is left goes at once: held until the next is fetched, it would still take presses. */}
        <BrowserRouter useTransitions={false}>
          <App />
        </BrowserRouter>
      </QueryClientProvider>
    </MantineProvider>
  </StrictMode>,
);
