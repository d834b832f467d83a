import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense, useCallback, useEffect, useRef } from 'react';
import { generatePath, Navigate, Route, Routes, useLocation, useMatch, useNavigate, useParams } from 'react-router';
import { sessionOptions } from './api/queries';
import { practiceRun } from './api/where';
import { NetMark } from './bench/NetMark';
import { Became } from './offline/Became';
import { OfflineBar } from './offline/OfflineBar';
import { UndoBar } from './bench/UndoBar';
import { Board } from './board/Board';
import { StartStrip } from './start/StartStrip';
import { FirstLesson } from './practice/FirstLesson';
import { useScan } from './machines/useScan';
import { FindByKey } from './controls/menu/Find';
import { claimed } from './controls/scanClaim';
import { pageOf } from './controls/menu/scanned';
import { focusHeading, useNextField } from './controls/focus';
import { KeySheet } from './controls/KeySheet';
import { NotHere } from './controls/NotHere';
import { FirstPassword } from './people/FirstPassword';
import { SignInAgain, SignInPage } from './people/SignIn';
import { useAlarm } from './clocks/useTimers';
import { hasShown, type System } from './units/units';
import { useUnits } from './units/UnitsContext';
import './App.css';

const JobPage = lazy(() => import('./stages/JobPage'));
const MachinesPage = lazy(() => import('./machines/MachinesPage'));
const LabelsPage = lazy(() => import('./machines/labels/LabelsPage'));
const LevelCheckPage = lazy(() => import('./between/LevelCheckPage'));
const SheetPage = lazy(() => import('./machines/sheet/SheetPage'));
const InstrumentsPage = lazy(() => import('./instruments/InstrumentsPage'));
const ReadingsPage = lazy(() => import('./readings/ReadingsPage'));
const FrostPlanPage = lazy(() => import('./between/FrostPlanPage'));
const RecordPage = lazy(() => import('./machines/record/RecordPage'));
const MachinePage = lazy(() => import('./machines/MachinePage'));
const HistoryPage = lazy(() => import('./machines/history/HistoryPage'));
const ProductsPage = lazy(() => import('./products/ProductsPage'));
const NewMachinePage = lazy(() => import('./machines/NewMachinePage'));
const FirstRunPage = lazy(() => import('./start/FirstRunPage'));
const GettingStartedPage = lazy(() => import('./start/GettingStartedPage'));
const OfPage = lazy(() => import('./machines/OfPage'));
const PeoplePage = lazy(() => import('./people/PeoplePage'));
const DataPage = lazy(() => import('./data/DataPage'));
const WallPage = lazy(() => import('./board/WallPage'));
const PlanPage = lazy(() => import('./plan/PlanPage'));
const ProfilePage = lazy(() => import('./people/ProfilePage'));
const HelpPage = lazy(() => import('./help/HelpPage'));
const ShelfPage = lazy(() => import('./shelf/ShelfPage'));
const WastePage = lazy(() => import('./shelf/WastePage'));
const CanPage = lazy(() => import('./shelf/CanPage'));
const PracticePage = lazy(() => import('./practice/PracticePage'));
const TruthPage = lazy(() => import('./practice/TruthPage'));
const RecordOfPractice = lazy(() => import('./practice/RecordPage'));
const PracticeBand = lazy(() => import('./practice/PracticeBand'));
const RulesPage = lazy(() => import('./rules/RulesPage'));

/** A scanned code opens the finder, or the page that a label's address names. */
function useFinderScan(on: boolean): void {
  const go = useNavigate();
  useScan(
    useCallback(
      (scanned: string) => {
        if (!claimed(scanned)) void go(pageOf(scanned));
      },
      [go],
    ),
    on,
  );
}

export function App() {
  const token = useMatch('/wall/:token')?.params.token;
  if (token === undefined) return <Bay />;
  return (
    <Suspense fallback={<p className="empty">Loading …</p>}>
      <WallPage token={token} />
    </Suspense>
  );
}

/** Everything but a wall: for whoever is signed in. */
function Bay() {
  const session = useQuery(sessionOptions);
  useFinderScan(Boolean(session.data?.person));
  useNextField();
  useHeadingOfEachPage();
  useDepotUnits(session.data?.depot?.units);
  if (session.isPending) return <p className="empty">Loading …</p>;
  if (session.isError)
    return (
      <NotHere head="The server does not answer." text={session.error.message} retry={() => void session.refetch()} />
    );
  if (session.data.first_run)
    return (
      <Suspense fallback={<p className="empty">Loading …</p>}>
        <FirstRunPage />
      </Suspense>
    );
  if (!session.data.person) return <SignInPage />;
  if (session.data.must_change) return <FirstPassword name={session.data.person.name} />;
  return (
    <>
      <a className="skip" href="#work">
        Skip to content
      </a>
      {practiceRun === null ? <OfflineBar /> : <PracticeBand run={practiceRun} />}
      {practiceRun === null && <Became />}
      <Suspense fallback={<p className="empty">Loading …</p>}>
        <Routes>
          <Route
            index
            element={
              <Board>
                {practiceRun === null && (
                  <>
                    <StartStrip />
                    <FirstLesson />
                  </>
                )}
              </Board>
            }
          />
          <Route path="getting-started" element={<GettingStartedPage />} />
          <Route path="loops/:loopId" element={<JobPage />} />
          <Route path="loops/:loopId/labels" element={<LabelsPage />} />
          <Route path="loops/:loopId/check" element={<LevelCheckPage />} />
          <Route path="loops/:loopId/sheet" element={<SheetPage />} />
          <Route path="of/:uuid" element={<OfPage />} />
          <Route path="instruments" element={<InstrumentsPage />} />
          <Route path="readings" element={<ReadingsPage />} />
          <Route path="frost-plan" element={<FrostPlanPage />} />
          <Route path="loops/:loopId/record" element={<RecordPage />} />
          <Route path="machines" element={<MachinesPage />} />
          <Route path="machines/new" element={<NewMachinePage />} />
          <Route path="machines/:machineId" element={<MachinePage />} />
          <Route path="loops/:loopId/history" element={<HistoryPage />} />
          <Route path="products" element={<ProductsPage />} />
          <Route path="shelf" element={<ShelfPage />} />
          <Route path="shelf/waste" element={<WastePage />} />
          <Route path="shelf/:canId" element={<CanPage />} />
          <Route path="rules" element={<RulesPage />} />
          <Route path="people" element={<PeoplePage />} />
          <Route path="data" element={<DataPage />} />
          <Route path="plan" element={<PlanPage />} />
          <Route path="profile" element={<ProfilePage />} />
          <Route path="help" element={<HelpPage />} />
          {practiceRun === null && (
            <>
              <Route path="practice" element={<PracticePage />} />
              <Route path="practice/truth/:runId" element={<TruthPage />} />
              <Route path="practice/record" element={<RecordOfPractice />} />
            </>
          )}
          {MOVED.map(([from, to]) => (
            <Route key={from} path={from} element={<Moved to={to} />} />
          ))}
          <Route path="*" element={<NotHere head="Page not found." text="Check the address, or choose a page." />} />
        </Routes>
      </Suspense>
      <FindByKey />
      <KeySheet />
      <UndoBar />
      <NetMark />
      <SignInAgain />
      <Alarm />
    </>
  );
}

/** A device on which nobody has chosen units yet shows the depot's. */
function useDepotUnits(units: System | undefined): void {
  const { setSystem } = useUnits();
  useEffect(() => {
    if (units && !hasShown()) setSystem(units);
  }, [units, setSystem]);
}

/** Whoever goes to another page begins at its heading, not where the last page left the focus. */
function useHeadingOfEachPage(): void {
  const { pathname } = useLocation();
  const shown = useRef(pathname);
  useEffect(() => {
    if (shown.current === pathname) return;
    const timer = setInterval(() => {
      if (document.querySelector('#work, .headline h1') === null) return; // its part is still on its way
      const lost = document.activeElement === null || document.activeElement === document.body;
      const typing = document.activeElement?.matches('input, textarea');
      if (shown.current === pathname ? lost : !typing) focusHeading();
      shown.current = pathname;
      // a page that waits for its data is drawn again with it, and the focus is lost with its heading
      if (document.querySelector('#work > .empty[role=status]') === null) clearInterval(timer);
    }, 50);
    return () => clearInterval(timer);
  }, [pathname]);
}

// addresses of before 0.7.0: bookmarks and calendars have them
const MOVED: [string, string][] = [
  ['log', '/readings'],
  ['catalogue', '/products'],
  ['policy', '/rules'],
  ['season', '/frost-plan'],
  ['loops/:loopId/ledger', '/loops/:loopId/record'],
  ['loops/:loopId/look', '/loops/:loopId/check'],
];

/** An address that has moved opens its page, its question with it. */
function Moved({ to }: { to: string }) {
  return <Navigate replace to={generatePath(to, useParams()) + useLocation().search} />;
}

/** Rings on whatever page is open. */
function Alarm() {
  useAlarm();
  return null;
}
