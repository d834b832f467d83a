import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense } from 'react';
import { useSearchParams } from 'react-router';
import { sessionOptions } from '../api/queries';
import { Page } from '../controls/menu/Page';
import { Segment } from '../controls/Segment';
import { AttentionSheet } from './AttentionSheet';
import { PlanCalendar } from './PlanCalendar';
import './plan.css';

const FiguresSheet = lazy(() => import('./FiguresSheet'));

type View = 'calendar' | 'attention' | 'figures';

/** What comes due by week; for leads also what needs their attention, and what the depot reports. */
export default function PlanPage() {
  const lead = useQuery(sessionOptions).data?.person?.role === 'lead';
  const [params, setParams] = useSearchParams();
  const asked = params.get('view');
  const view: View = lead && (asked === 'attention' || asked === 'figures') ? asked : 'calendar';
  return (
    <Page
      title="Plan"
      line={
        view === 'calendar'
          ? 'What comes due, by week, with the hours and litres it asks for'
          : view === 'attention'
            ? 'Read, answer, done'
            : 'Litres, waste, hours and jobs by month and machine'
      }
      tools={
        lead && (
          <Segment<View>
            label="View"
            hideLabel
            value={view}
            onChange={(next) => setParams(next === 'calendar' ? {} : { view: next })}
            options={[
              { value: 'calendar', label: 'Calendar' },
              { value: 'attention', label: 'Needs attention' },
              { value: 'figures', label: 'Figures' },
            ]}
          />
        )
      }
    >
      {view === 'calendar' && <PlanCalendar lead={lead} />}
      {view === 'attention' && <AttentionSheet />}
      {view === 'figures' && (
        <Suspense fallback={<p className="empty">Loading …</p>}>
          <FiguresSheet />
        </Suspense>
      )}
    </Page>
  );
}
