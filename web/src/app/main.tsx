import "@fontsource-variable/source-sans-3/wght.css";
import "@fontsource/source-serif-4/latin-600.css";
import "../styles.css";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { Tooltip } from "radix-ui";
import { StrictMode } from "react";
import { setNonce } from "get-nonce";
import { createRoot } from "react-dom/client";
import { BrowserRouter, Navigate, Route, Routes } from "react-router";
import { keepAsking } from "../api/away";
import { noAnswer } from "../api/client";
import { BinPage } from "../features/jobs/BinPage";
import { CircuitPage } from "../features/circuit/CircuitPage";
import { ComparePage } from "../features/choose/ComparePage";
import { DevicesPage } from "../features/devices/DevicesPage";
import { HistoryPage } from "../features/jobs/HistoryPage";
import { JobPage } from "../features/jobs/JobPage";
import { JobsPage } from "../features/jobs/JobsPage";
import { ErrorBoundary } from "./ErrorBoundary";
import { NotHere } from "../ui/Shell";
import { nonce } from "../ui/nonce";
import { applyTheme } from "../ui/theme";

applyTheme();
setNonce(nonce);

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      retry: (count, error) => noAnswer(error) && count < 600,
      retryDelay: 1500,
      networkMode: "always",
    },
    mutations: { networkMode: "always" },
  },
});

keepAsking(() => void queries.invalidateQueries());

const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <Tooltip.Provider delayDuration={400}>
          <BrowserRouter>
            <ErrorBoundary>
              <Routes>
                <Route path="/" element={<JobsPage />} />
                <Route path="/circuits/:circuit/history" element={<HistoryPage />} />
                <Route path="/bin" element={<BinPage />} />
                <Route path="/devices" element={<DevicesPage />} />
                <Route path="/jobs/:job" element={<JobPage />} />
                <Route path="/circuits/:circuit" element={<Navigate to="survey" replace />} />
                <Route path="/circuits/:circuit/compare" element={<ComparePage />} />
                <Route path="/circuits/:circuit/:stage" element={<CircuitPage />} />
                <Route path="*" element={<NotHere />} />
              </Routes>
            </ErrorBoundary>
          </BrowserRouter>
        </Tooltip.Provider>
      </QueryClientProvider>
    </StrictMode>,
  );
}
