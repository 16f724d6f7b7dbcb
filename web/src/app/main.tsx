import "@fontsource-variable/source-sans-3/wght.css";
import "@fontsource/source-serif-4/latin-600.css";
import "../styles.css";
import { MutationCache, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { Tooltip } from "radix-ui";
import { lazy, StrictMode, Suspense } from "react";
import { setNonce } from "get-nonce";
import { createRoot } from "react-dom/client";
import { BrowserRouter, Navigate, Route, Routes } from "react-router";
import { keepAsking } from "../api/away";
import { noAnswer } from "../api/client";
import { keys } from "../api/keys";
import { JobPage } from "../features/jobs/JobPage";
import { JobsPage } from "../features/jobs/JobsPage";
import { ErrorBoundary } from "./ErrorBoundary";
import { Waiting } from "../ui/Notice";
import { NotHere } from "../ui/Shell";
import { Toasts } from "../ui/Toasts";
import { nonce } from "../ui/nonce";
import { applyTheme } from "../ui/theme";

// The first screen comes alone; the others are fetched while it is read.
const later = {
  circuit: () => import("../features/circuit/CircuitPage"),
  compare: () => import("../features/choose/ComparePage"),
  devices: () => import("../features/devices/DevicesPage"),
  history: () => import("../features/jobs/HistoryPage"),
  bin: () => import("../features/jobs/BinPage"),
  firm: () => import("../features/jobs/FirmPage"),
};
const CircuitPage = lazy(() => later.circuit().then((m) => ({ default: m.CircuitPage })));
const ComparePage = lazy(() => later.compare().then((m) => ({ default: m.ComparePage })));
const DevicesPage = lazy(() => later.devices().then((m) => ({ default: m.DevicesPage })));
const HistoryPage = lazy(() => later.history().then((m) => ({ default: m.HistoryPage })));
const FirmPage = lazy(() => later.firm().then((m) => ({ default: m.FirmPage })));
const BinPage = lazy(() => later.bin().then((m) => ({ default: m.BinPage })));
window.addEventListener("load", () => setTimeout(() => void later.circuit().catch(() => undefined), 1500));

applyTheme();
setNonce(nonce);

// Any change may move something between the jobs and the bin: both lists are fetched again, also where the
// page that made the change is gone, or the list was on its way meanwhile.
const changes = new MutationCache({
  onSettled: () => {
    void queries.invalidateQueries({ queryKey: keys.jobs() });
    void queries.invalidateQueries({ queryKey: keys.bin() });
  },
});

const queries: QueryClient = new QueryClient({
  mutationCache: changes,
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
            <Toasts>
              <ErrorBoundary>
                <Suspense fallback={<Waiting what="Opening" />}>
                  <Routes>
                    <Route path="/" element={<JobsPage />} />
                    <Route path="/circuits/:circuit/history" element={<HistoryPage />} />
                    <Route path="/bin" element={<BinPage />} />
                    <Route path="/firm" element={<FirmPage />} />
                    <Route path="/devices" element={<DevicesPage />} />
                    <Route path="/jobs/:job" element={<JobPage />} />
                    <Route path="/circuits/:circuit" element={<Navigate to="survey" replace />} />
                    <Route path="/circuits/:circuit/compare" element={<ComparePage />} />
                    <Route path="/circuits/:circuit/:stage" element={<CircuitPage />} />
                    <Route path="*" element={<NotHere />} />
                  </Routes>
                </Suspense>
              </ErrorBoundary>
            </Toasts>
          </BrowserRouter>
        </Tooltip.Provider>
      </QueryClientProvider>
    </StrictMode>,
  );
}
