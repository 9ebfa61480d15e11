import { QueryClientProvider } from "@tanstack/react-query";
import { lazy, Suspense } from "react";
import { BrowserRouter, Navigate, Route, Routes } from "react-router";

import { Frame } from "@/app/Frame";
import { SessionGate } from "@/features/session";
import { ShelfPage } from "@/features/shelf";
import { queryClient } from "@/shared/api";
import { ErrorBoundary, Notices, Waiting } from "@/shared/ui";

const BenchPage = lazy(() => import("@/features/bench").then((it) => ({ default: it.BenchPage })));
const CardPage = lazy(() => import("@/features/card").then((it) => ({ default: it.CardPage })));
const DrawerPage = lazy(() => import("@/features/drawer").then((it) => ({ default: it.DrawerPage })));
const AccountPage = lazy(() => import("@/features/account").then((it) => ({ default: it.AccountPage })));
const AlongPage = lazy(() => import("@/features/along").then((it) => ({ default: it.AlongPage })));
const LogbookPage = lazy(() => import("@/features/logbook").then((it) => ({ default: it.LogbookPage })));
const PhotoChecksPage = lazy(() => import("@/features/photo-check").then((it) => ({ default: it.PhotoChecksPage })));
const PhotoCheckPage = lazy(() => import("@/features/photo-check").then((it) => ({ default: it.PhotoCheckPage })));
const PrintPage = lazy(() => import("@/features/print").then((it) => ({ default: it.PrintPage })));

export function App() {
  return (
    <QueryClientProvider client={queryClient}>
      <BrowserRouter>
        <Routes>
          {/* Outside of the gate: a run goes on while nobody can be asked who is signed in. */}
          <Route
            path="/runs/:id"
            element={
              <Suspense fallback={<Waiting what="Opening" />}>
                <ErrorBoundary>
                  <AlongPage />
                </ErrorBoundary>
              </Suspense>
            }
          />
          <Route path="*" element={<Screens />} />
        </Routes>
        <Notices />
      </BrowserRouter>
    </QueryClientProvider>
  );
}

function Screens() {
  return (
    <SessionGate>
      <Suspense fallback={<Waiting what="Opening" />}>
        <Routes>
          <Route
            path="/pieces/:id/print"
            element={
              <ErrorBoundary>
                <PrintPage />
              </ErrorBoundary>
            }
          />
          <Route element={<Frame />}>
            <Route path="/" element={<ShelfPage />} />
            <Route path="/pieces/:id" element={<BenchPage />} />
            <Route path="/pieces/:id/card" element={<CardPage />} />
            <Route path="/pieces/:id/photo-check" element={<PhotoChecksPage />} />
            <Route path="/photo-checks/:id" element={<PhotoCheckPage />} />
            <Route path="/drawers/:id?" element={<DrawerPage />} />
            <Route path="/logbook" element={<LogbookPage />} />
            <Route path="/account" element={<AccountPage />} />
            <Route path="*" element={<Navigate to="/" replace />} />
          </Route>
        </Routes>
      </Suspense>
    </SessionGate>
  );
}
