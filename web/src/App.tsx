import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense, useCallback } from 'react';
import { Route, Routes, useNavigate } from 'react-router';
import { sessionOptions } from './api/queries';
import { Board } from './board/Board';
import { useScan } from './machines/useScan';
import { NotHere } from './parts/NotHere';
import { SignInAgain, SignInPage } from './people/SignIn';
import { useAlarm } from './waiting/useTimers';

const BenchPage = lazy(() => import('./bench/BenchPage'));
const MachinesPage = lazy(() => import('./machines/MachinesPage'));
const LabelsPage = lazy(() => import('./bench/LabelsPage'));
const LookPage = lazy(() => import('./back/LookPage'));
const SheetPage = lazy(() => import('./back/SheetPage'));
const InstrumentsPage = lazy(() => import('./instruments/InstrumentsPage'));
const LogPage = lazy(() => import('./log/LogPage'));
const SeasonPage = lazy(() => import('./back/SeasonPage'));
const LedgerPage = lazy(() => import('./machines/LedgerPage'));
const MachinePage = lazy(() => import('./machines/MachinePage'));
const HistoryPage = lazy(() => import('./machines/HistoryPage'));
const CataloguePage = lazy(() => import('./catalogue/CataloguePage'));
const NewMachinePage = lazy(() => import('./machines/NewMachinePage'));
const PolicyPage = lazy(() => import('./policy/PolicyPage'));

/** A scanned code opens the finder, or the page that a label's address names. */
function useFinderScan(): void {
  const go = useNavigate();
  const onScan = useCallback(
    (scanned: string) => {
      const code = scanned.startsWith(`${window.location.origin}/`)
        ? scanned.slice(window.location.origin.length)
        : scanned;
      void go(/^\/(?!\/)/.test(code) ? code : `/machines?find=${encodeURIComponent(code)}`);
    },
    [go],
  );
  useScan(onScan);
}

export function App() {
  useFinderScan();
  const session = useQuery(sessionOptions);
  if (session.isPending) return <p className="empty">Opening the bay.</p>;
  if (session.isError)
    return (
      <NotHere head="The server does not answer." text={session.error.message} retry={() => void session.refetch()} />
    );
  if (!session.data.person) return <SignInPage />;
  return (
    <>
      <a className="skip" href="#work">
        To the work
      </a>
      <Suspense fallback={<p className="empty">Opening.</p>}>
        <Routes>
          <Route index element={<Board />} />
          <Route path="loops/:loopId" element={<BenchPage />} />
          <Route path="loops/:loopId/labels" element={<LabelsPage />} />
          <Route path="loops/:loopId/look" element={<LookPage />} />
          <Route path="loops/:loopId/sheet" element={<SheetPage />} />
          <Route path="instruments" element={<InstrumentsPage />} />
          <Route path="log" element={<LogPage />} />
          <Route path="season" element={<SeasonPage />} />
          <Route path="loops/:loopId/ledger" element={<LedgerPage />} />
          <Route path="machines" element={<MachinesPage />} />
          <Route path="machines/new" element={<NewMachinePage />} />
          <Route path="machines/:machineId" element={<MachinePage />} />
          <Route path="loops/:loopId/history" element={<HistoryPage />} />
          <Route path="catalogue" element={<CataloguePage />} />
          <Route path="policy" element={<PolicyPage />} />
          <Route
            path="*"
            element={<NotHere head="There is nothing at this address." text="It may have been mistyped." />}
          />
        </Routes>
      </Suspense>
      <SignInAgain />
      <Alarm />
    </>
  );
}

/** Rings on whatever page is open. */
function Alarm() {
  useAlarm();
  return null;
}
